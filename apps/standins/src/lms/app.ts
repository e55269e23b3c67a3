/**
 * A small learning management system that stands in for a real one: OAuth 2.0 (RFC 6749) with PKCE (RFC 7636) and server
 * metadata (RFC 8414), package import over HTTP, quiz pages and a gradebook.
 */
import { createHash, randomBytes } from 'node:crypto';
import express, { type NextFunction, type Request, type Response } from 'express';
import { escape, page } from './pages.js';
import { PackageError, exportPackage, readPackage, responsesOf, score, showItem } from './qti.js';
import type { Store } from './store.js';

const ACCOUNTS: Record<string, { password: string; name: string }> = { 'm.okafor': { password: 'harbour', name: 'M. Okafor, Harbour LMS' } };
const HOUR = 3600;
const token = (): string => randomBytes(24).toString('base64url');
const one = (v: unknown): string => (typeof v === 'string' ? v : '');

export function lmsApp(store: Store, publicUrl: string): express.Express {
  const app = express();
  app.disable('x-powered-by');
  const form = express.urlencoded({ extended: false, limit: '1mb', parameterLimit: 5000 });

  app.get('/health', (_q, r) => void r.json({ ok: true }));
  app.get(
    '/.well-known/oauth-authorization-server',
    (_q, r) =>
      void r.json({
        issuer: publicUrl,
        authorization_endpoint: `${publicUrl}/authorize`,
        token_endpoint: `${publicUrl}/token`,
        response_types_supported: ['code'],
        grant_types_supported: ['authorization_code', 'refresh_token'],
        code_challenge_methods_supported: ['S256'],
        token_endpoint_auth_methods_supported: ['none'],
        scopes_supported: ['quizzes'],
      }),
  );

  const FIELDS = ['client_id', 'redirect_uri', 'state', 'code_challenge', 'scope'] as const;
  const connectPage = (values: Record<string, unknown>, problem = ''): string =>
    page(
      'Connect Zakuska',
      `
    <p>Zakuska asks to add quizzes to your courses and to read their results.</p>${problem ? `<p class="error" role="alert">${problem}</p>` : ''}
    <form method="post" action="/authorize">${FIELDS.map((f) => `<input type="hidden" name="${f}" value="${escape(one(values[f]))}">`).join('')}
    <p><label>User name <input name="user" autocomplete="username" required></label></p><p><label>Password <input name="password" type="password" autocomplete="current-password" required></label></p>
    <p><button name="decision" value="allow">Sign in and allow</button> <button name="decision" value="deny" formnovalidate>Do not allow</button></p>
    <p><small>Demo account: user name m.okafor, password harbour</small></p></form>`,
    );
  const redirectProblem = (v: Record<string, unknown>): string | null => {
    if (one(v['client_id']) !== 'zakuska') return 'This client is not registered here.';
    try {
      const u = new URL(one(v['redirect_uri']));
      return /^(127\.0\.0\.1|localhost|\[::1\])$/.test(u.hostname) && u.pathname === '/api/v1/connections/callback'
        ? null
        : 'This redirect address is not registered for the client.';
    } catch {
      return 'The redirect address is no address.';
    }
  };

  app.get('/authorize', (q, r) => {
    const problem =
      redirectProblem(q.query) ??
      (one(q.query['response_type']) !== 'code' || one(q.query['code_challenge_method']) !== 'S256' || !one(q.query['code_challenge'])
        ? 'Only the code flow with an S256 code challenge is accepted.'
        : null);
    if (problem) return void r.status(400).send(page('Cannot connect', `<p class="error">${problem}</p>`));
    r.send(connectPage(q.query));
  });
  app.post('/authorize', form, async (q, r) => {
    const body = q.body as Record<string, unknown>;
    const problem = redirectProblem(body);
    if (problem) return void r.status(400).send(page('Cannot connect', `<p class="error">${problem}</p>`));
    const back = new URL(one(body['redirect_uri']));
    back.searchParams.set('state', one(body['state']));
    if (one(body['decision']) !== 'allow') {
      back.searchParams.set('error', 'access_denied');
      return r.redirect(303, back.href);
    }
    const user = one(body['user']).trim();
    if (!Object.hasOwn(ACCOUNTS, user) || ACCOUNTS[user]?.password !== one(body['password']))
      return void r.status(401).send(connectPage(body, 'User name and password do not go together.'));
    const code = token();
    await store.keepCode(code, user, one(body['redirect_uri']), one(body['code_challenge']));
    back.searchParams.set('code', code);
    r.redirect(303, back.href);
  });

  app.post('/token', form, async (q, r) => {
    const b = q.body as Record<string, unknown>;
    const refuse = (error: string): void => void r.status(400).json({ error });
    let account: string | undefined;
    if (one(b['grant_type']) === 'authorization_code') {
      const grant = await store.takeCode(one(b['code']));
      const challenge = createHash('sha256').update(one(b['code_verifier'])).digest('base64url');
      if (!grant || grant.redirect_uri !== one(b['redirect_uri']) || grant.challenge !== challenge) return refuse('invalid_grant');
      account = grant.account;
    } else if (one(b['grant_type']) === 'refresh_token') {
      account = await store.accountOf(one(b['refresh_token']), 'refresh');
      if (!account) return refuse('invalid_grant');
    } else return refuse('unsupported_grant_type');
    const access = token();
    const refresh = token();
    await store.keepToken(access, 'access', account, HOUR);
    await store.keepToken(refresh, 'refresh', account, 90 * 24 * HOUR);
    r.setHeader('cache-control', 'no-store').json({ access_token: access, token_type: 'Bearer', expires_in: HOUR, refresh_token: refresh, scope: 'quizzes' });
  });

  const signedIn = async (q: Request, r: Response, next: NextFunction): Promise<void> => {
    const account = await store.accountOf(/^Bearer (.+)$/.exec(q.headers.authorization ?? '')?.[1] ?? '', 'access');
    if (!account) return void r.status(401).setHeader('www-authenticate', 'Bearer').json({ detail: 'The access token is not known or has run out.' });
    r.locals['account'] = account;
    next();
  };
  app.get('/api/me', signedIn, (_q, r) => void r.json({ name: ACCOUNTS[String(r.locals['account'])]?.name }));
  app.post('/api/imports', signedIn, express.raw({ type: 'application/zip', limit: '20mb' }), async (q, r) => {
    const key = q.headers['idempotency-key'];
    if (typeof key !== 'string' || !key) return void r.status(400).json({ detail: 'An Idempotency-Key header is needed.' });
    if (!Buffer.isBuffer(q.body)) return void r.status(415).json({ detail: 'The body must be a package, application/zip.' });
    const content = readPackage(q.body);
    const quiz = await store.keepQuiz(randomBytes(6).toString('hex'), String(r.locals['account']), key, content);
    const items = [
      ...quiz.content.items.map((i) => ({ title: i.title, status: 'arrived' })),
      ...quiz.content.refused.map((i) => ({ title: i.title, status: 'refused', message: i.message })),
    ];
    r.status(201).json({ id: quiz.id, title: quiz.title, link: `${publicUrl}/quiz/${quiz.id}`, report: `${publicUrl}/imports/${quiz.id}`, items });
  });
  app.get('/api/quizzes/:id/package', signedIn, async (q, r) => {
    const quiz = await store.quiz(one(q.params['id']));
    if (!quiz) return void r.status(404).json({ detail: 'There is no such quiz.' });
    r.type('application/zip').send(Buffer.from(exportPackage(quiz.content)));
  });
  app.get('/api/quizzes/:id/results', signedIn, async (q, r) => void r.json(await store.results(one(q.params['id']))));

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
