/**
 * A small form service that stands in for a real one: a REST interface that describes itself (openapi.ts), pages on which people
 * fill forms in, and pages on which the owner reads answers. It shares nothing with the product.
 */
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import express, { type NextFunction, type Request, type Response } from 'express';
import { accountOf, type OAuthOptions, signedIn } from '../oauth.js';
import { type Once, Refused } from '../once.js';
import { escape, many, one, pagesOf } from '../pages.js';
import { serviceApp } from '../serviceApp.js';
import { type Answer, type Entry, isAnswered, maximumOf, pointsOf } from './marking.js';
import { openapi } from './openapi.js';
import { type Form, PAGE_SIZE, type Settings, type Store } from './store.js';

const ACCOUNTS: OAuthOptions['accounts'] = {
  'm.okafor': { password: 'slipway', name: 'M. Okafor, Slipway Forms', hint: 'Demo account: user name m.okafor, password slipway' },
};
const page = pagesOf(
  'Slipway Forms',
  'a simulated form service',
  'body{background:#f5f3ec;font-family:system-ui,sans-serif}header{color:#5a4a1f;border-bottom:2px solid #d8cfae}section{border-left:4px solid #b9a25a}button{background:#5a4a1f;border-radius:2px}td,th{border-bottom:1px solid #d8cfae}.score{font-size:1.3rem}.right{color:#1d5c2f}.wrong{color:#8a1c1c}',
);
const round = (n: number): number => Math.round(n * 1e4) / 1e4;

export interface FormsOptions {
  /** So many requests of an account in so many seconds; more get 429. */
  rate?: { requests: number; seconds: number };
}

export function formsApp(store: Store, publicUrl: string, { rate = { requests: 60, seconds: 10 } }: FormsOptions = {}): express.Express {
  const { app, rawBody } = serviceApp(
    { type: 'image/*', limit: '2mb' },
    { publicUrl, accounts: ACCOUNTS, scope: 'forms', asks: 'Zakuska asks to make forms and to read their answers.', page, tokens: store.tokens },
  );

  // --- the interface ---
  const document = openapi(publicUrl);
  app.get('/openapi.json', (_q, r) => void r.json(document));
  const ajv = new Ajv2020({ strict: false, discriminator: true, allErrors: false });
  ajv.addSchema({ $id: 'api', components: document.components });
  const checks = new Map<string, ValidateFunction>();
  /** The body, if it is as the document says. */
  const bodyAs = <T>(q: Request, name: string): T => {
    const check = checks.get(name) ?? ajv.compile({ $ref: `api#/components/schemas/${name}` });
    checks.set(name, check);
    if (check(q.body)) return q.body as T;
    const [e] = check.errors ?? [];
    throw new Refused(422, `${e?.instancePath || 'The body'} ${e?.message ?? 'is not as it should be'}`);
  };

  const buckets = new Map<string, { left: number; until: number }>();
  const limited = (_q: Request, r: Response, next: NextFunction): void => {
    const now = Date.now();
    let b = buckets.get(accountOf(r));
    if (!b || b.until <= now) buckets.set(accountOf(r), (b = { left: rate.requests, until: now + rate.seconds * 1000 }));
    if (b.left-- > 0) return next();
    r.status(429)
      .setHeader('retry-after', String(Math.ceil((b.until - now) / 1000)))
      .json({ detail: 'Too many requests.' });
  };
  app.use('/v1', signedIn(store.tokens), limited);

  const mine = async (q: Request, r: Response): Promise<Form> => {
    const form = await store.form(one(q.params['form']));
    if (form?.account !== accountOf(r)) throw new Refused(404, 'There is no such form.');
    return form;
  };
  const shown = ({ account: _a, ...form }: Form): object => ({
    ...form,
    link: `${publicUrl}/f/${form.id}`,
    copyLink: `${publicUrl}/f/${form.id}/copy`,
    answersLink: `${publicUrl}/f/${form.id}/answers`,
  });
  /** Answers with what is done once for the key of the request. */
  const once = async (q: Request, r: Response, work: Parameters<Once['do']>[3]): Promise<void> => {
    const key = q.headers['idempotency-key'];
    const body = rawBody(q)?.toString('base64') ?? '';
    const done = await store.once.do(accountOf(r), typeof key === 'string' ? key : undefined, `${q.method} ${q.path} ${body}`, work);
    r.status(done.status).json(done.body);
  };
  app.get('/v1/me', (_q, r) => void r.json({ name: ACCOUNTS[accountOf(r)]?.name }));
  app.get('/v1/forms', async (q, r) => {
    const skip = Number(one(q.query['after'])) || 0;
    const rows = await store.forms(accountOf(r), skip);
    const forms = rows.slice(0, PAGE_SIZE).map((f) => ({ ...f, link: `${publicUrl}/f/${f.id}` }));
    r.json({ forms, ...(rows.length > PAGE_SIZE && { next: String(skip + PAGE_SIZE) }) });
  });
  app.post('/v1/forms', (q, r) =>
    once(q, r, async (rows) => {
      const id = await store.makeForm(rows, accountOf(r), bodyAs<{ title: string; settings?: Partial<Settings> }>(q, 'FormBody'));
      return { status: 201, body: shown((await store.form(id, rows)) as Form) };
    }),
  );
  app.get('/v1/forms/:form', async (q, r) => void r.json(shown(await mine(q, r))));
  app.patch('/v1/forms/:form', async (q, r) => {
    const form = await mine(q, r);
    await store.changeForm(form, bodyAs(q, 'FormPatch'));
    r.json(shown((await store.form(form.id)) as Form));
  });
  app.post('/v1/forms/:form/sections', async (q, r) => {
    const form = await mine(q, r);
    const body = bodyAs<{ title?: string; text?: string }>(q, 'SectionBody');
    await once(q, r, async (rows) => ({ status: 201, body: await store.addSection(rows, form.id, body) }));
  });
  /** A body of its kind: so that what is wrong is said of that kind, not of all. */
  const entryIn = (q: Request): Record<string, unknown> => {
    const kind = String((q.body as Record<string, unknown> | undefined)?.['kind']);
    const name = `${kind.slice(0, 1).toUpperCase()}${kind.slice(1)}`;
    if (!['Note', 'One', 'Several', 'Words', 'Paragraph', 'Grid'].includes(name)) throw new Refused(422, `There is no entry of the kind “${kind}”.`);
    return bodyAs(q, name);
  };
  app.post('/v1/forms/:form/entries', async (q, r) => {
    const form = await mine(q, r);
    const body = entryIn(q);
    await once(q, r, async (rows) => ({ status: 201, body: await store.addEntry(rows, accountOf(r), form.id, body) }));
  });
  const entryOf = (form: Form, q: Request): Entry => {
    const entry = form.entries.find((e) => e.id === q.params['entry']);
    if (!entry) throw new Refused(404, 'There is no such entry.');
    return entry;
  };
  app.put('/v1/forms/:form/entries/:entry', async (q, r) => {
    const form = await mine(q, r);
    r.json(await store.changeEntry(accountOf(r), form.id, entryOf(form, q), entryIn(q)));
  });
  app.delete('/v1/forms/:form/entries/:entry', async (q, r) => {
    const form = await mine(q, r);
    await store.removeEntry(form.id, entryOf(form, q).id);
    r.status(204).end();
  });
  app.post('/v1/forms/:form/copies', async (q, r) => {
    const form = await mine(q, r);
    await once(q, r, async (rows) => ({ status: 201, body: shown((await store.form(await store.copy(rows, form), rows)) as Form) }));
  });
  app.get('/v1/forms/:form/responses', async (q, r) => {
    const form = await mine(q, r);
    const after = Number(one(q.query['after'])) || 0;
    const list = await store.responses(form.id, after);
    const responses = list.map(({ place: _p, name, mail, ...x }) => ({ ...x, ...(name && { name }), ...(mail && { mail }) }));
    r.json({ responses, next: String(list.at(-1)?.place ?? after) });
  });
  app.post('/v1/pictures', async (q, r) => {
    if (!Buffer.isBuffer(q.body)) throw new Refused(415, 'A picture is image/png, image/jpeg, image/gif or image/webp.');
    await once(q, r, async (rows) => ({
      status: 201,
      body: { id: await store.keepPicture(rows, accountOf(r), String(q.headers['content-type']), q.body as Buffer) },
    }));
  });

  // --- pages ---
  const form_ = express.urlencoded({ extended: false, limit: '1mb', parameterLimit: 10_000 });
  const there = async (q: Request): Promise<Form> => {
    const form = await store.form(one(q.params['form']));
    if (!form) throw new Refused(404, 'There is no such form.');
    return form;
  };
  app.get('/pictures/:picture', async (q, r) => {
    const p = await store.picture(one(q.params['picture']));
    if (!p) throw new Refused(404, 'There is no such picture.');
    r.setHeader('content-security-policy', "default-src 'none'").type(p.media_type).send(p.bytes);
  });
  app.get('/', async (_q, r) => {
    const lists = await Promise.all(Object.keys(ACCOUNTS).map((a) => store.forms(a, 0)));
    const rows = lists
      .flat()
      .map((f) => `<li><a href="/f/${f.id}">${escape(f.title)}</a>, ${f.entries} entries · <a href="/f/${f.id}/answers">${f.responses} answers</a></li>`);
    r.send(page('Forms', rows.length ? `<ul>${rows.join('')}</ul>` : '<p>There is no form yet.</p>'));
  });
  app.get('/f/:form', async (q, r) => {
    const form = await there(q);
    r.send(page(form.title, form.settings.open ? fillPage(form) : '<p>This form takes no more answers.</p>'));
  });
  app.post('/f/:form', form_, async (q, r) => {
    const form = await there(q);
    if (!form.settings.open) throw new Refused(409, 'This form takes no more answers.');
    const body = q.body as Record<string, unknown>;
    const answers: Record<string, Answer> = {};
    for (const e of form.entries) {
      const a = answerIn(e, body);
      if (isAnswered(a)) answers[e.id] = a as Answer;
      else if (e.kind !== 'note' && e.required) return void r.status(422).send(page(form.title, fillPage(form, `“${e.text}” has to be answered.`, body)));
    }
    const said = (name: 'name' | 'mail'): string | null => one(body[name]).trim().slice(0, 200) || null;
    const { asks } = form.settings;
    if (asks !== 'nobody' && !said(asks)) return void r.status(422).send(page(form.title, fillPage(form, 'Say who you are.', body)));
    const marked = form.settings.quiz ? form.entries.filter((e) => e.kind !== 'note') : [];
    const marks = Object.fromEntries(marked.map((e) => [e.id, pointsOf(e, answers[e.id])]));
    const score = round(Object.values(marks).reduce<number>((s, m) => s + (m ?? 0), 0));
    const maximum = round(marked.reduce((s, e) => s + (marks[e.id] === null ? 0 : maximumOf(e)), 0));
    await store.keepResponse(form, { name: said('name'), mail: said('mail'), answers, marks, score, maximum });
    const { shows, quiz } = form.settings;
    const list = marked.map((e) => {
      const got = marks[e.id];
      const right = got === maximumOf(e);
      const words = got === null ? 'marked by a person' : `${round(got ?? 0)} of ${maximumOf(e)}`;
      const told = got === null ? undefined : right ? e.feedback?.right : e.feedback?.wrong;
      return `<li>${escape(e.text)}: <span class="${right ? 'right' : 'wrong'}">${words}</span>${told ? `<br><em>${escape(told)}</em>` : ''}</li>`;
    });
    r.send(
      page(
        'Thank you',
        `<p>Your answers have arrived.</p>${quiz && shows !== 'nothing' ? `<p class="score"><strong>${score} of ${maximum} points</strong></p>` : ''}${quiz && shows === 'answers' ? `<ol>${list.join('')}</ol>` : ''}`,
      ),
    );
  });
  app.get('/f/:form/copy', async (q, r) => {
    const form = await there(q);
    r.send(
      page(
        'Take a copy',
        `<p>A copy of “${escape(form.title)}” with its ${form.entries.length} entries, without answers.</p><form method="post"><button>Make my copy</button></form>`,
      ),
    );
  });
  app.post('/f/:form/copy', form_, async (q, r) => {
    const form = await there(q);
    const id = await store.once.do(form.account, undefined, '', async (rows) => ({ status: 201, body: { id: await store.copy(rows, form) } }));
    r.redirect(303, `/f/${(id.body as { id: string }).id}`);
  });
  app.get('/f/:form/answers', async (q, r) => {
    const form = await there(q);
    const list = await store.responses(form.id, 0, 1000);
    const rows = list.map(
      (x) =>
        `<tr><td>${escape(x.name ?? x.mail ?? 'somebody')}</td><td>${x.score} of ${x.maximum}</td><td>${x.at.toISOString().slice(0, 16).replace('T', ' ')}</td></tr>`,
    );
    r.send(
      page(
        `Answers to ${form.title}`,
        list.length
          ? `<p><a href="/f/${form.id}/answers.csv">As CSV</a></p><table><tr><th>Who</th><th>Score</th><th>When</th></tr>${rows.join('')}</table>`
          : '<p>Nobody has answered yet.</p>',
      ),
    );
  });
  app.get('/f/:form/answers.csv', async (q, r) => {
    const form = await there(q);
    const asked = form.entries.filter((e) => e.kind !== 'note');
    const line = (cells: string[]): string => `${cells.map((c) => `"${c.replace(/"/g, '""')}"`).join(',')}\r\n`;
    const list = await store.responses(form.id, 0, 1000);
    const body = [
      line(['Time', 'Name', 'Mail', 'Score', ...asked.map((e) => e.text)]),
      ...list.map((x) => line([x.at.toISOString(), x.name ?? '', x.mail ?? '', `${x.score} / ${x.maximum}`, ...asked.map((e) => inWords(e, x.answers[e.id]))])),
    ];
    r.type('text/csv; charset=utf-8').attachment('answers.csv').send(body.join(''));
  });

  app.use((e: unknown, q: Request, r: Response, _next: NextFunction) => {
    const status = e instanceof Refused ? e.status : ((e as { status?: number }).status ?? 500);
    if (status >= 500) console.error(e);
    const detail = status < 500 ? (e as Error).message : 'The form service could not do this.';
    if (q.path.startsWith('/v1')) return void r.status(status).json({ detail });
    r.status(status).send(page('This did not work', `<p class="error" role="alert">${escape(detail)}</p>`));
  });
  return app;
}

/** What a form page sent for an entry. */
function answerIn(e: Entry, body: Record<string, unknown>): Answer | undefined {
  if (e.kind === 'note') return undefined;
  if (e.kind === 'several') return many(body[e.id]).filter((x) => e.options.some((o) => o.id === x));
  if (e.kind === 'grid')
    return Object.fromEntries(
      e.rows.flatMap((row) => {
        const column = one(body[`${e.id}.${row.id}`]);
        return e.columns.some((c) => c.id === column) ? [[row.id, column]] : [];
      }),
    );
  const said = one(body[e.id]);
  return e.kind === 'one' && !e.options.some((o) => o.id === said) ? undefined : said;
}

/** An answer as the owner reads it. */
function inWords(e: Entry, a: Answer | undefined): string {
  if (a === undefined) return '';
  if ('options' in e) return (Array.isArray(a) ? a : [String(a)]).map((id) => e.options.find((o) => o.id === id)?.text ?? '').join('; ');
  if (e.kind === 'grid' && typeof a === 'object' && !Array.isArray(a))
    return e.rows.map((row) => `${row.text}: ${e.columns.find((c) => c.id === a[row.id])?.text ?? ''}`).join('; ');
  return String(a);
}

const shuffled = <T>(list: readonly T[]): T[] =>
  list
    .map((x) => ({ x, at: Math.random() }))
    .sort((a, b) => a.at - b.at)
    .map(({ x }) => x);
const picture = (id: string | undefined): string => (id ? `<p><img src="/pictures/${id}" alt=""></p>` : '');
const lines = (s: string): string => escape(s).replace(/\n/g, '<br>');

function fillPage(form: Form, problem = '', said: Record<string, unknown> = {}): string {
  const checked = (name: string, value: string): string => (many(said[name]).includes(value) ? ' checked' : '');
  const { asks } = form.settings;
  const entry = (e: Entry): string => {
    const head = `${lines(e.text)}${e.kind !== 'note' && e.required ? ' *' : ''}`;
    const points = e.kind !== 'note' && form.settings.quiz && e.points ? ` <small>${e.points} ${e.points === 1 ? 'point' : 'points'}</small>` : '';
    const help = e.kind !== 'note' && e.help ? `<small>${lines(e.help)}</small>` : '';
    let body = '';
    if (e.kind === 'note') return `<section><p>${head}</p>${picture(e.picture)}</section>`;
    if ('options' in e) {
      const type = e.kind === 'one' ? 'radio' : 'checkbox';
      body = (e.shuffle ? shuffled(e.options) : e.options)
        .map(
          (o) =>
            `<label><input type="${type}" name="${e.id}" value="${o.id}"${checked(e.id, o.id)}> <span>${lines(o.text)}${picture(o.picture)}</span></label>`,
        )
        .join('');
    } else if (e.kind === 'words') body = `<input name="${e.id}" aria-label="Answer" autocomplete="off" value="${escape(one(said[e.id]))}">`;
    else if (e.kind === 'paragraph') body = `<textarea name="${e.id}" rows="5" aria-label="Answer">${escape(one(said[e.id]))}</textarea>`;
    else {
      const rows = e.rows.map(
        (row) =>
          `<tr><th scope="row">${lines(row.text)}</th>${e.columns.map((c) => `<td><input type="radio" name="${e.id}.${row.id}" value="${c.id}" aria-label="${escape(row.text)}: ${escape(c.text)}"${checked(`${e.id}.${row.id}`, c.id)}></td>`).join('')}</tr>`,
      );
      body = `<table><tr><td></td>${e.columns.map((c) => `<th scope="col">${lines(c.text)}</th>`).join('')}</tr>${rows.join('')}</table>`;
    }
    return `<section data-entry="${e.id}"><fieldset><legend>${head}${points}</legend>${help}${picture(e.picture)}${body}</fieldset></section>`;
  };
  const part = (id: string | undefined): string => {
    const s = form.sections.find((x) => x.id === id);
    const own = form.entries.filter((e) => e.section === id);
    const list = (form.settings.shuffle ? shuffled(own) : own).map(entry);
    return (s ? `<h2>${escape(s.title)}</h2>${s.text ? `<p>${lines(s.text)}</p>` : ''}` : '') + list.join('');
  };
  const who =
    asks === 'nobody'
      ? ''
      : `<section><label>${asks === 'name' ? 'Your name' : 'Your mail address'} <input name="${asks}" type="${asks === 'mail' ? 'email' : 'text'}" required autocomplete="off" value="${escape(one(said[asks]))}"></label></section>`;
  return `${form.description ? `<p>${lines(form.description)}</p>` : ''}${problem ? `<p class="error" role="alert">${escape(problem)}</p>` : ''}<form method="post">${who}${[undefined, ...form.sections.map((s) => s.id)].map(part).join('')}<button>Send</button></form>`;
}
