/**
 * A small learning management system that stands in for a real one: OAuth 2.0, courses with people, packages imported as quizzes and
 * into banks, quiz pages, results and a gradebook.
 */
import { createHash } from 'node:crypto';
import express, { type NextFunction, type Request, type Response } from 'express';
import { newId } from '../database.js';
import { accountOf, type OAuthOptions, signedIn } from '../oauth.js';
import { Refused } from '../once.js';
import { escape, one, pagesOf } from '../pages.js';
import { serviceApp } from '../serviceApp.js';
import { platform } from './platform.js';
import { PackageError, exportPackage, readPackage, responsesOf, score, showItem, type StoredQuiz } from './qti.js';
import { type Collection, type Store } from './store.js';

const ACCOUNTS: OAuthOptions['accounts'] = {
  'm.okafor': { password: 'harbour', name: 'M. Okafor, Harbour LMS', hint: 'Demo account: user name m.okafor, password harbour' },
};
const page = pagesOf(
  'Harbour LMS',
  'a simulated learning management system',
  'body{background:#f3f6f8}header{color:#33556e;border-bottom:1px solid #c5d2db}section{border:1px solid #c5d2db;border-radius:4px}button{background:#24516f;border-radius:4px}td,th{border-bottom:1px solid #dfe7ec}',
);

/** @param links where links to courses and quizzes begin, to try what a client makes of odd ones */
export async function lmsApp(store: Store, publicUrl: string, links = publicUrl): Promise<express.Express> {
  const { app } = serviceApp(
    { type: 'application/zip', limit: '20mb' },
    {
      publicUrl,
      accounts: ACCOUNTS,
      scope: 'quizzes',
      asks: 'Zakuska asks to add quizzes to your courses and to read their results.',
      page,
      tokens: store.tokens,
    },
  );
  const tools = await platform(app, store, publicUrl, page);
  const form = express.urlencoded({ extended: false, limit: '1mb', parameterLimit: 5000 });
  const guard = signedIn(store.tokens);
  const linkTo = (c: { kind: string; id: string }): string => `${links}/${c.kind}/${c.id}`;
  app.get('/api/me', guard, (_q, r) => void r.json({ name: ACCOUNTS[accountOf(r)]?.name }));
  const key = (q: Request): string | undefined => (typeof q.headers['idempotency-key'] === 'string' ? q.headers['idempotency-key'] : undefined);

  app.get('/api/courses', guard, async (_q, r) => {
    const all = await store.collections();
    const courses = await store.courses();
    r.json({
      courses: await Promise.all(
        courses.map(async (c) => ({
          ...c,
          link: `${links}/course/${c.id}`,
          groups: await store.crowds(c.id),
          collections: all
            .filter((x) => x.course === c.id)
            .map((x) => ({ id: x.id, kind: x.kind, title: x.title, items: x.items, results: x.results, link: linkTo(x), group: x.crowd ?? null })),
        })),
      ),
    });
  });
  app.get('/api/courses/:course/people', guard, async (q, r) => void r.json({ people: await store.people(one(q.params['course'])) }));

  /** What an import did with each item of a package, in the package's order. */
  const report = (c: Collection, items: object[]): object => ({ id: c.id, title: c.title, link: linkTo(c), report: `${publicUrl}/imports/${c.id}`, items });
  const refusedIn = (content: StoredQuiz): object[] => content.refused.map((i) => ({ title: i.title, status: 'refused', message: i.message }));
  const packageIn = (q: Request): StoredQuiz => {
    if (!Buffer.isBuffer(q.body)) throw new Refused(415, 'The body must be a package, application/zip.');
    return readPackage(q.body);
  };
  const wholeRequest = (q: Request): string =>
    `${q.method} ${q.originalUrl} ${createHash('sha256')
      .update(q.body as Buffer)
      .digest('hex')}`;
  // a package as something new in a course: a quiz, or items for a bank
  app.post('/api/courses/:course/imports', guard, async (q, r) => {
    const kind = q.query['as'] === 'bank' ? 'bank' : 'quiz';
    const course = one(q.params['course']);
    if (!key(q)) throw new Refused(400, 'An Idempotency-Key header is needed.');
    if (!(await store.courses()).some((c) => c.id === course)) throw new Refused(404, 'There is no such course.');
    const crowd = one(q.query['group']) || null;
    if (crowd !== null && (kind === 'bank' || !(await store.crowds(course)).includes(crowd)))
      throw new Refused(422, 'There is no such group for a quiz of this course.');
    const content = packageIn(q);
    const done = await store.once.do(accountOf(r), key(q), wholeRequest(q), async (rows) => {
      const title = one(q.query['title']).slice(0, 200) || content.title;
      const c: Collection = { id: newId(), course, kind, title, content, crowd };
      await store.keep(rows, c);
      return {
        status: 201,
        body: report(c, [...content.items.map((i) => ({ identifier: i.identifier, title: i.title, status: 'arrived' })), ...refusedIn(content)]),
      };
    });
    r.status(done.status).json(done.body);
  });
  // a package into something that is there: an item of the same identifier takes the place of the one before
  app.post('/api/collections/:id/imports', guard, async (q, r) => {
    const content = packageIn(q);
    const done = await store.once.do(accountOf(r), key(q), wholeRequest(q), async (rows) => {
      await rows('select 1 from standin_lms.collection where id = $1 for update', [one(q.params['id'])]);
      const c = await store.collection(one(q.params['id']), rows);
      if (!c) throw new Refused(404, 'There is no such quiz or bank.');
      const items = [...c.content.items];
      const told = content.items.map((i) => {
        const at = items.findIndex((x) => x.identifier === i.identifier);
        const before = items[at];
        if (!before) items.push(i);
        else items[at] = i;
        const same = before?.xml === i.xml && before.weight === i.weight;
        return { identifier: i.identifier, title: i.title, status: before ? (same ? 'same' : 'changed') : 'arrived' };
      });
      const next = { ...c, content: { ...c.content, items } };
      await store.keep(rows, next);
      return { status: 200, body: report(next, [...told, ...refusedIn(content)]) };
    });
    r.status(done.status).json(done.body);
  });
  const there = async (q: Request): Promise<Collection> => {
    const c = await store.collection(one(q.params['id']));
    if (!c) throw new Refused(404, 'There is no such quiz or bank.');
    return c;
  };
  app.delete('/api/collections/:id/items/:identifier', guard, async (q, r) => {
    const c = await there(q);
    await store.keep(store.rows, { ...c, content: { ...c.content, items: c.content.items.filter((i) => i.identifier !== q.params['identifier']) } });
    r.status(204).end();
  });
  app.get('/api/collections/:id/package', guard, async (q, r) => void r.type('application/zip').send(Buffer.from(exportPackage((await there(q)).content))));
  app.get('/api/collections/:id/results', guard, async (q, r) => {
    const after = Number(one(q.query['after'])) || 0;
    const list = await store.results((await there(q)).id, after, 50);
    const results = list.map((x) => ({ id: x.id, at: x.at.toISOString(), learner: x.learner, items: x.detail }));
    r.json({ results, next: String(list.at(-1)?.place ?? after) });
  });
  app.get('/api/courses/:course/columns', guard, async (q, r) => void r.json({ columns: await store.columns(one(q.params['course'])) }));
  app.post('/api/courses/:course/columns', guard, async (q, r) => {
    const { title, maximum } = q.body as { title?: unknown; maximum?: unknown };
    if (typeof title !== 'string' || !title.trim() || typeof maximum !== 'number' || !(maximum >= 0))
      throw new Refused(422, 'A column has a title and a maximum.');
    const course = one(q.params['course']);
    if (!(await store.courses()).some((c) => c.id === course)) throw new Refused(404, 'There is no such course.');
    const request = `${q.originalUrl} ${JSON.stringify(q.body)}`;
    const done = await store.once.do(accountOf(r), key(q), request, async (rows) => ({
      status: 201,
      body: { id: await store.addColumn(rows, course, title.trim().slice(0, 200), maximum) },
    }));
    r.status(done.status).json(done.body);
  });
  app.put('/api/columns/:column/grades/:person', guard, async (q, r) => {
    const { score } = q.body as { score?: unknown };
    if (typeof score !== 'number' || !Number.isFinite(score)) throw new Refused(422, 'A grade is a number.');
    if (!(await store.grade(one(q.params['column']), one(q.params['person']), score)))
      throw new Refused(404, 'There is no such column, or this person is not in its course.');
    r.status(204).end();
  });

  app.get('/', async (_q, r) => {
    const [courses, all] = [await store.courses(), await store.collections()];
    const row = (z: (typeof all)[number]): string =>
      z.kind === 'bank'
        ? `<li><a href="/bank/${z.id}">${escape(z.title)}</a>, a bank of ${z.items} items</li>`
        : `<li><a href="/quiz/${z.id}">${escape(z.title)}</a>${z.crowd ? `, for the ${escape(z.crowd)}` : ''} · <a href="/imports/${z.id}">import report</a> · <a href="/gradebook/${z.id}">gradebook</a></li>`;
    r.send(
      page(
        'Courses',
        courses
          .map((c) => {
            const own = all.filter((z) => z.course === c.id);
            return `<h2><a href="/course/${c.id}">${escape(c.name)}</a></h2>${own.length ? `<ul>${own.map(row).join('')}</ul>` : '<p>No quiz has been imported yet.</p>'}`;
          })
          .join(''),
      ),
    );
  });
  app.get('/course/:course', async (q, r) => {
    const course = (await store.courses()).find((c) => c.id === q.params['course']);
    if (!course) return void r.status(404).send(page('Not here', '<p>There is no such course.</p>'));
    const [people, columns] = [await store.people(course.id), await store.columns(course.id)];
    const cell = (c: (typeof columns)[number], p: string): string => String(c.grades.find((g) => g.person === p)?.score ?? '');
    r.send(
      page(
        course.name,
        `${await tools.linksOf(course.id)}<h2>Gradebook</h2><table><tr><th>Learner</th>${columns.map((c) => `<th>${escape(c.title)} (of ${c.maximum})</th>`).join('')}</tr>${people.map((p) => `<tr><td>${escape(p.name)}</td>${columns.map((c) => `<td>${cell(c, p.id)}</td>`).join('')}</tr>`).join('')}</table>`,
      ),
    );
  });
  app.get('/bank/:id', async (q, r) => {
    const c = await store.collection(one(q.params['id']));
    if (!c) return void r.status(404).send(page('Not here', '<p>There is no such bank.</p>'));
    r.send(page(c.title, `<p>${c.content.items.length} items in the bank.</p><ol>${c.content.items.map((i) => `<li>${escape(i.title)}</li>`).join('')}</ol>`));
  });
  const found = async (q: Request, r: Response) => {
    const quiz = await store.collection(one(q.params['id']));
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
        `${quiz.crowd ? `<p>For the ${escape(quiz.crowd)}.</p>` : ''}<form method="post"><section><label>Your name <input name="learner" required autocomplete="off"></label></section>${quiz.content.items.map((i, n) => `<section data-item="${escape(i.identifier)}"><small>Question ${n + 1} of ${quiz.content.items.length}</small>${showItem(i, `q${n}.`)}</section>`).join('')}<button>Hand in</button></form>`,
      ),
    );
  });
  app.post('/quiz/:id', form, async (q, r) => {
    const quiz = await found(q, r);
    if (!quiz) return;
    const body = q.body as Record<string, string | string[]>;
    const marked = quiz.content.items.map((i, n) => {
      const responses = responsesOf(i, `q${n}.`, body);
      return { i, responses, s: score(i, responses) };
    });
    const auto = marked.filter((m) => !m.s.byHand);
    const sum = (f: (m: (typeof marked)[number]) => number): number => Math.round(auto.reduce((t, m) => t + f(m), 0) * 1e4) / 1e4;
    const total = sum((m) => m.s.score);
    const maximum = sum((m) => m.s.maximum);
    const learner = one(body['learner']).trim() || 'Somebody';
    const known = quiz.crowd ? (await store.people(quiz.course)).find((p) => p.name.toLowerCase() === learner.toLowerCase()) : undefined;
    if (quiz.crowd && known?.crowd !== quiz.crowd)
      return void r.status(403).send(page('Not for you', `<p>This quiz is for the ${escape(quiz.crowd)}, and ${escape(learner)} is not in it.</p>`));
    await store.keepResult({
      id: newId(),
      quiz: quiz.id,
      learner,
      score: total,
      maximum,
      detail: marked.map((m) => ({ identifier: m.i.identifier, responses: m.responses, score: m.s.byHand ? null : m.s.score, maximum: m.s.maximum })),
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
    const rows = (await store.results(quiz.id)).reverse();
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
    if (e instanceof Refused) return void r.status(e.status).json({ detail: e.message });
    if (e instanceof PackageError) return void r.status(422).json({ detail: e.message });
    console.error(e);
    r.status((e as { status?: number }).status ?? 500).json({ detail: 'The LMS could not do this.' });
  });
  return app;
}
