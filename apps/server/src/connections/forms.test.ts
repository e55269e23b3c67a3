/** A set on its way to a form service and back, over HTTP: the stand-in in this process, which knows nothing of us. */
import { type Item, mark, newId, rightResponse } from '@zakuska/core';
import request from 'supertest';
import { formsApp } from '../../../standins/src/forms/app.js';
import { type Answer, type Entry } from '../../../standins/src/forms/marking.js';
import { Store } from '../../../standins/src/forms/store.js';
import type { Trouble } from '../../../standins/src/trouble.js';
import { beginPush, choices, outside, pushUntil, type SeenPush } from '../testing/pushes.js';
import { freshDatabase, startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';

let server: TestServer;
let world: World;
let store: Store;
let there: Awaited<ReturnType<typeof outside>>;
let formsUrl: string;

interface Placed {
  id: string;
  container: string;
  pieces: { item: string }[];
  responses: number;
}

beforeAll(async () => {
  store = new Store(freshDatabase('zakuska_test_forms_there'));
  await store.open();
  there = await outside((url) => formsApp(store, url, { rate: { requests: 1_000_000, seconds: 10 } }));
  formsUrl = there.url;
  process.env['FORMS_URL'] = formsUrl;
  process.env['SERVICE_TIMEOUT_MS'] = '800';
  server = await startServer('zakuska_test_forms_here');
  world = await makeWorld(server, 'forms@x.example');
  await connect();
});
afterAll(async () => {
  await server.stop();
  there.close();
  await store.close();
});

/** Signs in at the service and allows, as a person does. */
async function connect(): Promise<void> {
  const { body } = await world.owner.post(`/api/v1/workspaces/${world.workspace}/connections`).send({ service: 'forms', back: '/sets/x' }).expect(201);
  const { searchParams } = new URL((body as { url: string }).url);
  const allowed = await request(formsUrl)
    .post('/authorize')
    .type('form')
    .send({ ...Object.fromEntries(searchParams), user: 'm.okafor', password: 'slipway', decision: 'allow' })
    .expect(303);
  const back = new URL(allowed.headers['location'] ?? '');
  const r = await world.owner.get(back.pathname + back.search).expect(302);
  expect(r.headers['location']).toContain('/sets/x?connection=made');
}
interface ServiceRow {
  service: string;
  connectionId?: string;
  accountName?: string;
}
const connection = async (): Promise<ServiceRow> => {
  const { body } = await world.owner.get(`/api/v1/workspaces/${world.workspace}/services`).expect(200);
  return (body as ServiceRow[]).find((s) => s.service === 'forms') as ServiceRow;
};

const begin = async (set: string, more: object = {}, id = newId()): Promise<string> => beginPush(world, set, (await connection()).connectionId, more, id);
const until = (id: string, ...states: string[]): Promise<SeenPush> => pushUntil(world, id, ...states);
const push = async (set: string, more: object = {}): Promise<SeenPush> => until(await begin(set, more), 'done');
const placementOf = async (set: string): Promise<Placed> =>
  ((await world.owner.get(`/api/v1/sets/${set}/placements`).expect(200)).body as Placed[])[0] as Placed;
const entriesOf = async (form: string): Promise<Entry[]> => (await store.form(form))?.entries ?? [];
const textsOf = async (form: string): Promise<string[]> => (await entriesOf(form)).map((e) => e.text);
const trouble = (list: Trouble[]): Promise<unknown> => request(formsUrl).put('/trouble').send(list).expect(200);
const statuses = (p: SeenPush): Record<string, number> => {
  const out: Record<string, number> = {};
  for (const i of p.report.items ?? []) out[i.status] = (out[i.status] ?? 0) + 1;
  return out;
};

test('connected under the name that the service gives', async () => {
  expect(await connection()).toMatchObject({ accountName: 'M. Okafor, Slipway Forms' });
});

test('20 items go to a new form, are filled in right and wrong there, and come back with the same points, each once', async () => {
  const list = choices(20);
  const set = await world.makeSet(list);
  const done = await push(set, { title: 'Flour', settings: { shows: 'answers', asks: 'mail', once: true, nonsense: 1 } });
  expect(statuses(done)).toEqual({ arrived: 20 });
  expect(done.report).toMatchObject({ title: 'Flour', rehearsal: { ok: true } });
  const { id, container } = await placementOf(set);
  const form = await store.form(container);
  expect(form).toMatchObject({ title: 'Flour', settings: { quiz: true, shows: 'answers', asks: 'mail', once: true, shuffle: false } });
  const fill = (mail: string, right: number): request.Test =>
    request(formsUrl)
      .post(`/f/${container}`)
      .type('form')
      .send({ mail, ...Object.fromEntries((form?.entries ?? []).map((e, i) => [e.id, 'options' in e ? (e.options[i < right ? 1 : 0]?.id ?? '') : ''])) });
  for (let i = 0; i < 30; i++) await fill(`p${i}@x.example`, i % 21).expect(200);
  const pull = async (): Promise<unknown> => (await world.owner.post(`/api/v1/placements/${id}/pull`).expect(200)).body;
  // more than a page of the service; asked for twice at once
  expect(await Promise.all([pull(), pull()])).toContainEqual({ added: expect.any(Number) as number, total: 30 });
  expect(await pull()).toEqual({ added: 0, total: 30 });
  const { body } = await world.owner.get(`/api/v1/placements/${id}/results`).expect(200);
  const results = body as { attempts: { name: string; points: number; marks: object }[]; set: { items: Item[] }; otherwise: number };
  expect(results.attempts).toHaveLength(30);
  expect(results.otherwise).toBe(0);
  for (const a of results.attempts) expect(a.points).toBe(2 * (Number(/\d+/.exec(a.name)?.[0]) % 21));
  expect(results.set.items.map((i) => i.stem)).toEqual(list.map((i) => i.stem));
  // what is decided here holds for what was fetched, and for what comes later
  const first = results.set.items[0]?.id;
  await world.owner
    .post(`/api/v1/placements/${id}/decisions`)
    .send({ decisions: [{ type: 'full-points', item: first }] })
    .expect(200);
  await fill('late@x.example', 0).expect(200);
  await pull();
  const after = (await world.owner.get(`/api/v1/placements/${id}/results`).expect(200)).body as {
    attempts: { name: string; points: number }[];
    decisions: { id: string }[];
  };
  const points = new Map(after.attempts.map((a) => [a.name, a.points]));
  expect(points.get('late@x.example')).toBe(2);
  for (const a of results.attempts) expect(points.get(a.name)).toBe(Math.max(2, a.points));
  await world.owner
    .post(`/api/v1/placements/${id}/decisions/back`)
    .send({ ids: after.decisions.map((d) => d.id) })
    .expect(204);
  const again = (await world.owner.get(`/api/v1/placements/${id}/results`).expect(200)).body as typeof after;
  expect(again.attempts.find((a) => a.name === 'late@x.example')?.points).toBe(0);
});

test('five more are added to the same form without touching the first; what changed is changed; what went is taken out where that is wanted', async () => {
  const list = choices(6);
  const set = await world.makeSet(list);
  await push(set, { items: list.slice(0, 3).map((i) => i.id) });
  const { container } = await placementOf(set);
  await store.addEntry(store.rows, 'm.okafor', container, { kind: 'note', text: 'Mine.' });
  const before = await entriesOf(container);
  const more = await push(set, { container });
  expect(statuses(more)).toEqual({ same: 3, arrived: 3 });
  expect((await entriesOf(container)).slice(0, 4)).toEqual(before);
  await world.owner
    .post(`/api/v1/sets/${set}/operations`)
    .send({ base: 1, operations: [{ id: newId(), operation: { type: 'change', id: list[0]?.id, set: { stem: 'Changed?' } } }] })
    .expect(200);
  const last = await push(set, { container, takeOut: true, items: list.slice(0, 5).map((i) => i.id) });
  expect(statuses(last)).toEqual({ changed: 1, same: 4, 'taken out': 1 });
  expect(await textsOf(container)).toEqual(['Changed?', ...list.slice(1, 3).map((i) => i.stem), 'Mine.', ...list.slice(3, 5).map((i) => i.stem)]);
  expect((await placementOf(set)).pieces).toHaveLength(5);
  const containers = (await world.owner.get(`/api/v1/connections/${(await connection()).connectionId}/containers`).expect(200)).body as {
    id: string;
    holds: string;
  }[];
  expect(containers.find((c) => c.id === container)).toMatchObject({ holds: '6 entries, 0 responses' });
});

test('items that are added after a decision are marked like the others', async () => {
  const list = choices(2);
  const set = await world.makeSet(list);
  await push(set, { items: [list[0]?.id], settings: { asks: 'mail' } });
  const { id, container } = await placementOf(set);
  await world.owner
    .post(`/api/v1/placements/${id}/decisions`)
    .send({ decisions: [{ type: 'full-points', item: list[0]?.id }] })
    .expect(200);
  const fill = async (mail: string): Promise<void> => {
    const entries = await entriesOf(container);
    await request(formsUrl)
      .post(`/f/${container}`)
      .type('form')
      .send({ mail, ...Object.fromEntries(entries.map((e) => [e.id, 'options' in e ? (e.options[1]?.id ?? '') : ''])) })
      .expect(200);
    await world.owner.post(`/api/v1/placements/${id}/pull`).expect(200);
  };
  await fill('first@x.example');
  await push(set, { container, settings: { asks: 'mail' } });
  await fill('second@x.example');
  const { body } = await world.owner.get(`/api/v1/placements/${id}/results`).expect(200);
  const points = new Map((body as { attempts: { name: string; points: number }[] }).attempts.map((a) => [a.name, a.points]));
  expect(points.get('second@x.example')).toBe(4);
});

describe('the menu of failures: a push of eight arrives whole and once', () => {
  const at = { method: 'POST', path: '/v1/forms/' };
  test.each<[string, Trouble[]]>([
    ['an error of the service', [{ kind: 'error', ...at, after: 2 }]],
    ['an error when the form is made', [{ kind: 'error', method: 'POST', path: '/v1/forms' }]],
    ['too many requests', [{ kind: 'limit', ...at, after: 3, times: 2 }]],
    ['no answer', [{ kind: 'silence', ...at, after: 1 }]],
    ['half an answer', [{ kind: 'half', ...at, after: 4 }]],
    ['done, and the answer lost', [{ kind: 'lost', ...at, after: 2, times: 2 }]],
    ['the form made, and the answer lost', [{ kind: 'lost', method: 'POST', path: '/v1/forms' }]],
    ['delivered twice', [{ kind: 'twice', ...at, after: 1, times: 4 }]],
    ['the token run out in the middle', [{ kind: 'expired', ...at, after: 4 }]],
    ['an error so often that the push has to be taken up again', [{ kind: 'error', ...at, after: 3, times: 3 }]],
    ['lost so often that the push has to be taken up again', [{ kind: 'lost', ...at, after: 3, times: 4 }]],
    ['reading back fails', [{ kind: 'error', method: 'GET', path: '/v1/forms/', times: 1 }]],
  ])('%s', async (_, list) => {
    const all = choices(8);
    const set = await world.makeSet(all);
    await trouble(list);
    const done = await push(set);
    await trouble([]);
    expect(statuses(done)).toEqual({ arrived: 8 });
    const { container } = await placementOf(set);
    expect(await textsOf(container)).toEqual(all.map((i) => i.stem));
    expect(done.report.rehearsal?.ok).toBe(true);
    const forms = await store.rows<{ id: string }>('select id from standin_forms.form where title = $1', ['T']);
    expect(new Set(forms.map((f) => f.id)).size).toBe(forms.length);
  });
  test('access that was revoked in the middle is said; connected again, it goes on', async () => {
    const all = choices(5);
    const set = await world.makeSet(all);
    await trouble([{ kind: 'revoked', ...at, after: 2 }]);
    const id = await begin(set);
    const failed = await until(id, 'failed');
    expect(failed.report.problem).toContain('no longer knows this connection');
    expect(statuses(failed)).toEqual({ arrived: 2, waiting: 3 });
    await connect();
    await world.owner.post(`/api/v1/pushes/${id}/again`).expect(200);
    expect(statuses(await until(id, 'done'))).toEqual({ arrived: 5 });
    expect(await textsOf((await placementOf(set)).container)).toEqual(all.map((i) => i.stem));
  });
  test('what the service refuses is told item by item, and the others arrive', async () => {
    const good = choices(2);
    const hash = 'ab'.repeat(32);
    // a section that is taken away between: the form is full
    const set = await world.makeSet(good);
    await push(set, { items: [good[0]?.id] });
    const { container } = await placementOf(set);
    for (let i = 0; i < 299; i++) await store.addEntry(store.rows, 'm.okafor', container, { kind: 'note', text: `${i} ${hash}` });
    const done = await push(set, { container });
    expect(statuses(done)).toEqual({ same: 1, refused: 1 });
    expect(done.report.items?.[1]).toMatchObject({ message: 'A form has at most 300 entries.' });
    expect(done.report.rehearsal?.ok).toBe(false);
  });
  test('a form that is not there any more is said at once', async () => {
    const set = await world.makeSet(choices(1));
    const failed = await until(await begin(set, { container: 'nothere' }), 'failed');
    expect(failed.report.problem).toBe('The service refused: There is no such form.');
  });
});

test('a person stops it, and takes it up again', async () => {
  const all = choices(6);
  const set = await world.makeSet(all);
  await trouble([{ kind: 'limit', method: 'POST', path: '/v1/forms/', after: 3, times: 3 }]);
  const id = await begin(set);
  for (let i = 0; i < 100 && (statuses((await world.owner.get(`/api/v1/pushes/${id}`)).body as SeenPush)['arrived'] ?? 0) < 3; i++)
    await new Promise((r) => setTimeout(r, 20));
  await world.owner.post(`/api/v1/pushes/${id}/stop`).expect(200);
  const stopped = await until(id, 'stopped');
  expect(statuses(stopped)).toEqual({ arrived: 3, waiting: 3 });
  await trouble([]);
  await world.owner.post(`/api/v1/pushes/${id}/again`).expect(200);
  expect(statuses(await until(id, 'done'))).toEqual({ arrived: 6 });
  expect(await textsOf((await placementOf(set)).container)).toEqual(all.map((i) => i.stem));
});

test('two pushes to one form at once: the second is told to wait', async () => {
  const all = choices(4);
  const set = await world.makeSet(all);
  await push(set, { items: [all[0]?.id] });
  const { container } = await placementOf(set);
  await trouble([{ kind: 'limit', method: 'POST', path: '/v1/forms/', times: 1 }]);
  const first = await begin(set, { container });
  const second = await world.owner
    .post(`/api/v1/sets/${set}/pushes`)
    .send({ id: newId(), connectionId: (await connection()).connectionId, container })
    .expect(409);
  expect(second.body).toMatchObject({ code: 'push-under-way' });
  await until(first, 'done');
  expect(await textsOf(container)).toEqual(all.map((i) => i.stem));
});

test('answers to every kind of question come back as they were given', async () => {
  const all: Item[] = [
    { id: newId(), kind: 'true-false', stem: 'Salt is salt.', points: 1, answer: true },
    { id: newId(), kind: 'short-answer', stem: 'Name it.', points: 1, answers: [{ text: 'Rye', credit: 1 }], match: { caseSensitive: false } },
    { id: newId(), kind: 'ordering', stem: 'Order.', points: 3, sequence: ['mix', 'rest', 'bake'] },
    { id: newId(), kind: 'essay', stem: 'Tell.', points: 4 },
  ] as Item[];
  const set = await world.makeSet(all);
  await push(set);
  const { id, container } = await placementOf(set);
  const entries = await entriesOf(container);
  const body: Record<string, string> = { name: 'Ada' };
  for (const e of entries) {
    if ('options' in e) body[e.id] = e.options.find((o) => o.right)?.id ?? '';
    else if (e.kind === 'grid') for (const r of e.rows) body[`${e.id}.${r.id}`] = r.column ?? '';
    else body[e.id] = e.kind === 'words' ? 'rye' : 'A long tale.';
  }
  await request(formsUrl).post(`/f/${container}`).type('form').send(body).expect(200);
  await world.owner.post(`/api/v1/placements/${id}/pull`).expect(200);
  const results = (await world.owner.get(`/api/v1/placements/${id}/results`)).body as {
    set: { items: Item[] };
    attempts: { points: number; responses: Record<string, Answer>; marks: Record<string, { state: string }> }[];
  };
  const [attempt] = results.attempts;
  expect(attempt?.points).toBe(5);
  for (const item of results.set.items) {
    const right = rightResponse(item);
    if (right) expect(mark(item, attempt?.responses[item.id] as never).points).toBe(item.points);
    else expect([attempt?.responses[item.id], attempt?.marks[item.id]?.state]).toEqual([{ text: 'A long tale.' }, 'by-hand']);
  }
});
