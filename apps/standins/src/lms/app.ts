/**
 * A small learning management system that stands in for a real one: OAuth 2.0, package import over HTTP, quiz pages and a gradebook.
 */
import { randomBytes } from 'node:crypto';
import express, { type NextFunction, type Request, type Response } from 'express';
import { accountOf, oauth, type OAuthOptions, signedIn } from '../oauth.js';
import { escape, one, pagesOf } from '../pages.js';
import { PackageError, exportPackage, readPackage, responsesOf, score, showItem } from './qti.js';
import type { Store } from './store.js';

const ACCOUNTS: OAuthOptions['accounts'] = {
  'm.okafor': { password: 'harbour', name: 'M. Okafor, Harbour LMS', hint: 'Demo account: user name m.okafor, password harbour' },
};
const page = pagesOf(
  'Harbour LMS',
  'a simulated learning management system',
  'body{background:#f3f6f8}header{color:#33556e;border-bottom:1px solid #c5d2db}section{border:1px solid #c5d2db;border-radius:4px}button{background:#24516f;border-radius:4px}td,th{border-bottom:1px solid #dfe7ec}',
);

export function lmsApp(store: Store, publicUrl: string): express.Express {
  const app = express();
  app.disable('x-powered-by');
  const form = express.urlencoded({ extended: false, limit: '1mb', parameterLimit: 5000 });

  app.get('/health', (_q, r) => void r.json({ ok: true }));
  app.use(
    oauth({
      publicUrl,
      accounts: ACCOUNTS,
      scope: 'quizzes',
      asks: 'Zakuska asks to add quizzes to your courses and to read their results.',
      page,
      tokens: store.tokens,
    }),
  );
  const guard = signedIn(store.tokens);
  app.get('/api/me', guard, (_q, r) => void r.json({ name: ACCOUNTS[accountOf(r)]?.name }));
  app.post('/api/imports', guard, express.raw({ type: 'application/zip', limit: '20mb' }), async (q, r) => {
    const key = q.headers['idempotency-key'];
    if (typeof key !== 'string' || !key) return void r.status(400).json({ detail: 'An Idempotency-Key header is needed.' });
    if (!Buffer.isBuffer(q.body)) return void r.status(415).json({ detail: 'The body must be a package, application/zip.' });
    const content = readPackage(q.body);
    const quiz = await store.keepQuiz(randomBytes(6).toString('hex'), accountOf(r), key, content);
    const items = [
      ...quiz.content.items.map((i) => ({ title: i.title, status: 'arrived' })),
      ...quiz.content.refused.map((i) => ({ title: i.title, status: 'refused', message: i.message })),
    ];
    r.status(201).json({ id: quiz.id, title: quiz.title, link: `${publicUrl}/quiz/${quiz.id}`, report: `${publicUrl}/imports/${quiz.id}`, items });
  });
  app.get('/api/quizzes/:id/package', guard, async (q, r) => {
    const quiz = await store.quiz(one(q.params['id']));
    if (!quiz) return void r.status(404).json({ detail: 'There is no such quiz.' });
    r.type('application/zip').send(Buffer.from(exportPackage(quiz.content)));
  });
  app.get('/api/quizzes/:id/results', guard, async (q, r) => void r.json(await store.results(one(q.params['id']))));

  app.get('/', async (_q, r) => {
    const list = await store.quizzes();
    r.send(
      page(
        'Quizzes',
        list.length
          ? `<ul>${list.map((z) => `<li><a href="/quiz/${z.id}">${escape(z.title)}</a> · <a href="/imports/${z.id}">import report</a> · <a href="/gradebook/${z.id}">gradebook</a></li>`).join('')}</ul>`
          : '<p>No quiz has been imported yet.</p>',
      ),
    );
  });
  const found = async (q: Request, r: Response) => {
    const quiz = await store.quiz(one(q.params['id']));
    if (!quiz) r.status(404).send(page('Not here', '<p>There is no such quiz.</p>'));
    return quiz;
  };
  app.get('/imports/:id', async (q, r) => {
    const quiz = await found(q, r);
    if (!quiz) return;
    const { items, refused } = quiz.content;
    r.send(
      page(
        'Import report',
        `<p>${items.length} items arrived, ${refused.length} refused.</p><ol>${items.map((i) => `<li>${escape(i.title)}</li>`).join('')}</ol>${refused.map((i) => `<p class="error">${escape(i.title)}: ${escape(i.message)}</p>`).join('')}<p><a href="/quiz/${quiz.id}">Open the quiz</a></p>`,
      ),
    );
  });
  app.get('/quiz/:id', async (q, r) => {
    const quiz = await found(q, r);
    if (!quiz) return;
    r.send(
      page(
        quiz.title,
        `<form method="post"><section><label>Your name <input name="learner" required autocomplete="off"></label></section>${quiz.content.items.map((i, n) => `<section data-item="${escape(i.identifier)}"><small>Question ${n + 1} of ${quiz.content.items.length}</small>${showItem(i, `q${n}.`)}</section>`).join('')}<button>Hand in</button></form>`,
      ),
    );
  });
  app.post('/quiz/:id', form, async (q, r) => {
    const quiz = await found(q, r);
    if (!quiz) return;
    const body = q.body as Record<string, string | string[]>;
    const marked = quiz.content.items.map((i, n) => ({ i, s: score(i, responsesOf(i, `q${n}.`, body)) }));
    const auto = marked.filter((m) => !m.s.byHand);
    const sum = (f: (m: (typeof marked)[number]) => number): number => Math.round(auto.reduce((t, m) => t + f(m), 0) * 1e4) / 1e4;
    const total = sum((m) => m.s.score);
    const maximum = sum((m) => m.s.maximum);
    const learner = one(body['learner']).trim() || 'Somebody';
    await store.keepResult({
      id: randomBytes(8).toString('hex'),
      quiz: quiz.id,
      learner,
      score: total,
      maximum,
      detail: marked.map((m) => ({ identifier: m.i.identifier, score: m.s.score, maximum: m.s.maximum })),
    });
    const byHand = marked.length - auto.length;
    r.send(
      page(
        'Your result',
        `<p class="total"><strong>${total} of ${maximum} points (${maximum ? Math.round((100 * total) / maximum) : 0} %)</strong></p>${byHand ? `<p>${byHand} answers are marked by your teacher.</p>` : ''}<ol>${marked.map((m) => `<li>${escape(m.i.title)}: ${m.s.byHand ? 'by hand' : `${Math.round(m.s.score * 1e4) / 1e4} of ${m.s.maximum}`}${m.s.feedback.map((f) => `<div>${f}</div>`).join('')}</li>`).join('')}</ol>`,
      ),
    );
  });
  app.get('/gradebook/:id', async (q, r) => {
    const quiz = await found(q, r);
    if (!quiz) return;
    const rows = await store.results(quiz.id);
    r.send(
      page(
        'Gradebook',
        rows.length
          ? `<table><tr><th>Learner</th><th>Score</th></tr>${rows.map((x) => `<tr><td>${escape(x.learner)}</td><td>${x.score} of ${x.maximum}</td></tr>`).join('')}</table>`
          : '<p>Nobody has handed in yet.</p>',
      ),
    );
  });

  app.use((e: unknown, _q: Request, r: Response, _next: NextFunction) => {
    if (e instanceof PackageError) return void r.status(422).json({ detail: e.message });
    console.error(e);
    r.status((e as { status?: number }).status ?? 500).json({ detail: 'The LMS could not do this.' });
  });
  return app;
}
