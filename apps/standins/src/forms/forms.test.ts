/**
 * The form service by itself, apart from the product's adapter: its answers against its own OpenAPI document, idempotency keys as
 * in the IETF draft "The Idempotency-Key HTTP Header Field" (from memory), 429 with Retry-After (RFC 6585, RFC 9110), its pages.
 */
import { Ajv2020 } from 'ajv/dist/2020.js';
import type { Express } from 'express';
import http from 'node:http';
import type { AddressInfo } from 'node:net';
import request from 'supertest';
import { freshDatabase, tokensFor } from '../testing.js';
import { troubles } from '../trouble.js';
import { formsApp } from './app.js';
import { type Entry, pointsOf } from './marking.js';
import { openapi } from './openapi.js';
import { Store } from './store.js';

let store: Store;
let app: Express;
let server: http.Server;
let token: string;
let refresh: string;
beforeAll(async () => {
  store = new Store(freshDatabase('zakuska_test_forms'));
  await store.open();
  app = formsApp(store, 'http://forms.test', { rate: { requests: 100_000, seconds: 10 } });
  server = app.listen(0, '127.0.0.1');
  ({ access_token: token, refresh_token: refresh } = await tokensFor(app, 'm.okafor', 'slipway'));
});
afterAll(async () => {
  server.closeAllConnections();
  server.close();
  await store.close();
});

// what the document says of every answer, checked for every answer that a test gets
const document = openapi('http://forms.test');
const ajv = new Ajv2020({ strict: false, discriminator: true, formats: { 'date-time': /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d/ } });
ajv.addSchema({ $id: 'api', components: document.components });
type Operation = { responses: Record<string, { content?: { 'application/json': { schema: { $ref: string } } } }> };
function checked(method: string, path: string, status: number, body: unknown): void {
  const [, item] = Object.entries(document.paths).find(([p]) => new RegExp(`^${p.replace(/\{[^}]+\}/g, '[^/]+')}$`).test(path)) ?? [];
  const { responses } = (item as unknown as Record<string, Operation>)[method] ?? { responses: {} };
  const said = responses[status] ?? responses['default'];
  const name = said?.content?.['application/json'].schema.$ref;
  if (!name) return expect(status).toBe(204);
  const check = ajv.compile({ $ref: `api${name}` });
  expect({ path, ok: check(body), errors: check.errors }).toMatchObject({ ok: true });
}
async function call<T>(
  method: 'get' | 'post' | 'put' | 'patch' | 'delete',
  path: string,
  body?: object,
  expected?: number,
  headers: Record<string, string> = {},
): Promise<T> {
  const r = await request(server)[method](path).set('authorization', `Bearer ${token}`).set(headers).send(body);
  checked(method, path.split('?')[0] as string, r.status, r.body);
  if (expected !== undefined) expect(r.status).toBe(expected);
  return r.body as T;
}
interface FormView {
  id: string;
  title: string;
  entries: (Entry & { options?: { id: string; text: string }[] })[];
  sections: { id: string }[];
}
const QUIZ = { quiz: true, shows: 'answers', asks: 'name' };
const makeForm = (more: object = {}): Promise<FormView> => call('post', '/v1/forms', { title: 'Bread', settings: QUIZ, ...more }, 201);
const entriesOf = async (id: string): Promise<FormView['entries']> => (await call<FormView>('get', `/v1/forms/${id}`)).entries;
const WORDS = { kind: 'words', text: 'Name a flour.', points: 2, accepted: ['rye'] };

describe('the interface', () => {
  test('every schema of the document is one, and every operation has one of its own', () => {
    for (const name of Object.keys(document.components.schemas)) expect(() => ajv.compile({ $ref: `api#/components/schemas/${name}` })).not.toThrow();
    const ids = Object.values(document.paths).flatMap((p) => Object.values(p).flatMap((o) => (o as { operationId?: string }).operationId ?? []));
    expect(new Set(ids).size).toBe(ids.length);
  });
  test('entries of every kind stand in the order of sections, and can be changed and taken out', async () => {
    const form = await makeForm();
    const at = `/v1/forms/${form.id}`;
    const section = await call<{ id: string }>('post', `${at}/sections`, { title: 'Two' }, 201);
    const last = await call<Entry>('post', `${at}/entries`, { ...WORDS, section: section.id }, 201);
    const one = await call<Entry>('post', `${at}/entries`, { kind: 'one', text: 'Which?', options: [{ text: 'a', right: true }, { text: 'b' }] }, 201);
    const grid = { kind: 'grid', text: 'Match.', columns: ['x', 'y'], rows: [{ text: 'p', column: 1 }, { text: 'q' }] };
    await call('post', `${at}/entries`, grid, 201);
    await call('post', `${at}/entries`, { kind: 'note', text: 'Read.' }, 201);
    await call('post', `${at}/entries`, { kind: 'paragraph', text: 'Tell.' }, 201);
    expect((await entriesOf(form.id)).map((e) => e.kind)).toEqual(['one', 'grid', 'note', 'paragraph', 'words']);
    const changed = await call<FormView['entries'][0]>(
      'put',
      `${at}/entries/${one.id}`,
      { kind: 'one', text: 'Which one?', options: [{ text: 'c' }, { text: 'a' }] },
      200,
    );
    expect(changed).toMatchObject({ id: one.id, text: 'Which one?' });
    expect(changed.options?.[1]?.id).toBe((one as FormView['entries'][0]).options?.[0]?.id);
    await call('delete', `${at}/entries/${last.id}`, undefined, 204);
    expect(await entriesOf(form.id)).toHaveLength(4);
    const copy = await call<FormView>('post', `${at}/copies`, undefined, 201);
    expect(copy.entries.map((e) => e.text)).toEqual((await entriesOf(form.id)).map((e) => e.text));
  });
  test.each([
    ['no title', '/v1/forms', {}, 'title'],
    ['an unknown field', '/v1/forms', { title: 'x', colour: 'red' }, 'additional'],
    ['one option', 'entries', { kind: 'one', text: 'x', options: [{ text: 'a' }] }, 'fewer than 2'],
    ['an unknown kind', 'entries', { kind: 'map', text: 'x' }, 'no entry of the kind'],
    ['half a point', 'entries', { ...WORDS, points: 0.5 }, 'integer'],
    ['a column that is not there', 'entries', { kind: 'grid', text: 'x', columns: ['a', 'b'], rows: [{ text: 'r', column: 5 }] }, 'no column 5'],
    ['a section that is not there', 'entries', { ...WORDS, section: 'nothing' }, 'no such section'],
    ['a picture that is not there', 'entries', { ...WORDS, picture: 'nothing' }, 'no such picture'],
  ])('%s is refused with the reason, and nothing is kept', async (_, to, body, words) => {
    const form = await makeForm();
    const { detail } = await call<{ detail: string }>('post', to === 'entries' ? `/v1/forms/${form.id}/entries` : to, body, 422);
    expect(detail).toContain(words);
    expect(await entriesOf(form.id)).toHaveLength(0);
  });
  test('the same key is the same thing, also at the same time; with another body it is refused', async () => {
    const form = await makeForm();
    const add = (body: object, expected?: number): Promise<{ id: string }> =>
      call('post', `/v1/forms/${form.id}/entries`, body, expected, { 'idempotency-key': 'k1' });
    const answers = await Promise.all([1, 2, 3, 4].map(() => add(WORDS, 201)));
    expect(new Set(answers.map((a) => a.id)).size).toBe(1);
    expect(await entriesOf(form.id)).toHaveLength(1);
    await add({ ...WORDS, text: 'Another.' }, 422);
  });
  test('other people’s forms are not there, nothing without a token, more than the rate waits', async () => {
    await request(server).get('/v1/forms').expect(401);
    await call('get', '/v1/forms/nothere', undefined, 404);
    const slow = formsApp(store, 'http://forms.test', { rate: { requests: 2, seconds: 1 } });
    const ask = (): request.Test => request(slow).get('/v1/me').set('authorization', `Bearer ${token}`);
    await ask().expect(200);
    await ask().expect(200);
    const late = await ask().expect(429);
    await new Promise((r) => setTimeout(r, Number(late.headers['retry-after']) * 1000));
    await ask().expect(200);
  });
  test('forms come in pages, each once', async () => {
    for (let n = 0; n < 27; n++) await makeForm({ title: `Page ${n}` });
    const seen: string[] = [];
    for (let after = ''; ; ) {
      const list = await call<{ forms: { id: string }[]; next?: string }>('get', `/v1/forms${after && `?after=${after}`}`);
      seen.push(...list.forms.map((f) => f.id));
      if (!list.next) break;
      after = list.next;
    }
    expect(seen.length).toBeGreaterThanOrEqual(27);
    expect(new Set(seen).size).toBe(seen.length);
  });
});

describe('marking', () => {
  const options = ['a', 'b', 'c'].map((text) => ({ id: text, text, right: text !== 'c' }));
  const rows = [
    { id: 'r', text: 'r', column: 'x' },
    { id: 's', text: 's', column: 'y' },
  ];
  const base = { id: 'e', text: 't', points: 4 };
  test.each<[string, Entry, Parameters<typeof pointsOf>[1], number | null]>([
    ['several, all', { ...base, kind: 'several', options }, ['b', 'a'], 4],
    ['several, one missing', { ...base, kind: 'several', options }, ['a'], 0],
    ['several, one too many', { ...base, kind: 'several', options }, ['a', 'b', 'c'], 0],
    ['words in other letters', { ...base, kind: 'words', accepted: ['Rye flour'] }, '  rye   FLOUR ', 4],
    ['words, nothing', { ...base, kind: 'words', accepted: ['x'] }, '', 0],
    ['words without a key', { ...base, kind: 'words' }, 'x', null],
    ['a grid, half', { ...base, kind: 'grid', rows, columns: [] }, { r: 'x', s: 'x' }, 2],
    ['a paragraph', { ...base, kind: 'paragraph' }, 'long', null],
    ['no answer', { ...base, kind: 'one', options }, undefined, 0],
  ])('%s', (_, entry, answer, points) => expect(pointsOf(entry, answer)).toBe(points));
});

describe('pages', () => {
  test('a person fills a form in, is marked, and the owner reads it, also as CSV; markup stays text', async () => {
    const form = await makeForm({ settings: { ...QUIZ, once: true } });
    const entry = await call<Entry>(
      'post',
      `/v1/forms/${form.id}/entries`,
      { ...WORDS, text: '<i>Flour?</i>', required: true, feedback: { right: 'Well done' } },
      201,
    );
    const send = (body: object): request.Test => request(server).post(`/f/${form.id}`).type('form').send(body);
    expect((await request(server).get(`/f/${form.id}`).expect(200)).text).toContain('&lt;i&gt;Flour?');
    expect((await send({ name: 'Ada' }).expect(422)).text).toContain('has to be answered');
    expect((await send({ [entry.id]: 'rye' }).expect(422)).text).toContain('Say who you are');
    const done = await send({ name: 'Ada "A"', [entry.id]: 'Rye' }).expect(200);
    expect(done.text).toContain('2 of 2 points');
    expect(done.text).toContain('Well done');
    await send({ name: 'ada "a" ', [entry.id]: 'Rye' }).expect(409);
    const { responses } = await call<{ responses: object[] }>('get', `/v1/forms/${form.id}/responses`);
    expect(responses).toMatchObject([{ name: 'Ada "A"', score: 2, maximum: 2, answers: { [entry.id]: 'Rye' }, marks: { [entry.id]: 2 } }]);
    expect((await request(server).get(`/f/${form.id}/answers`).expect(200)).text).toContain('2 of 2');
    const csv = (await request(server).get(`/f/${form.id}/answers.csv`).expect(200)).text.split('\r\n');
    expect(csv[0]).toBe('"Time","Name","Mail","Score","<i>Flour?</i>"');
    expect(csv[1]).toContain('"Ada ""A""","","2 / 2","Rye"');
    await call('patch', `/v1/forms/${form.id}`, { settings: { open: false } }, 200);
    await send({ name: 'Ben', [entry.id]: 'x' }).expect(409);
    await request(server).get('/f/none').expect(404);
  });
});

describe('trouble on demand', () => {
  const port = (): number => (server.address() as AddressInfo).port;
  /** What a client sees of a request, and whether it was done. */
  const seen = async (kind: (typeof troubles)[number]): Promise<[string, number]> => {
    const form = await makeForm();
    await request(server)
      .put('/trouble')
      .send([{ kind, method: 'POST', path: '/v1/forms/' }])
      .expect(200);
    const result = await fetch(`http://127.0.0.1:${port()}/v1/forms/${form.id}/entries`, {
      method: 'POST',
      headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json' },
      body: JSON.stringify(WORDS),
      signal: AbortSignal.timeout(1500),
    })
      .then(async (r) => (await r.text(), String(r.status)))
      .catch(() => 'no answer');
    await request(server).put('/trouble').send([]).expect(200);
    if (kind === 'expired' || kind === 'revoked') ({ access_token: token, refresh_token: refresh } = await tokensFor(app, 'm.okafor', 'slipway'));
    return [result, (await entriesOf(form.id)).length];
  };
  test.each<[(typeof troubles)[number], string, number]>([
    ['error', '500', 0],
    ['limit', '429', 0],
    ['silence', 'no answer', 0],
    ['half', 'no answer', 1],
    ['lost', 'no answer', 1],
    ['twice', '201', 2],
    ['expired', '401', 0],
    ['revoked', '401', 0],
  ])('%s: %s, done %i times', async (kind, answer, entries) => expect(await seen(kind)).toEqual([answer, entries]));
  test('revoked access cannot be renewed (RFC 7009)', async () => {
    await request(server).post('/revoke').type('form').send({ token: refresh }).expect(200);
    await request(server).post('/token').type('form').send({ grant_type: 'refresh_token', refresh_token: refresh }).expect(400, { error: 'invalid_grant' });
    ({ access_token: token, refresh_token: refresh } = await tokensFor(app, 'm.okafor', 'slipway'));
  });
});
