/** A set on its way into quizzes and banks of a learning system and back: the stand-in in this process. */
import { draw, type Item, newId, poolOf } from '@zakuska/core';
import request from 'supertest';
import { lmsApp } from '../../../standins/src/lms/app.js';
import { Store } from '../../../standins/src/lms/store.js';
import type { Trouble } from '../../../standins/src/trouble.js';
import { encrypt } from '../platform/secrets.js';
import { Workspace } from '../accounts/entities.js';
import { beginPush, choices, outside, pushUntil, pushWithADeath, type SeenPush } from '../testing/pushes.js';
import { freshDatabase, startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';
import { Connection } from './entities.js';

let server: TestServer;
let world: World;
let store: Store;
let lmsHere: Awaited<ReturnType<typeof outside>>;
let url: string;
const connection = newId();

beforeAll(async () => {
  store = new Store(freshDatabase('zakuska_test_lms_there'));
  await store.open();
  lmsHere = await outside((at) => lmsApp(store, at));
  url = lmsHere.url;
  process.env['LMS_URL'] = url;
  process.env['SERVICE_TIMEOUT_MS'] = '800';
  server = await startServer('zakuska_test_lms_here');
  world = await makeWorld(server, 'lms@x.example');
  await store.tokens.keep('token', 'access', 'm.okafor', 3600);
  const em = server.orm.em.fork();
  const sealed = encrypt(JSON.stringify({ accessToken: 'token', expiresAt: Date.now() + 3_600_000 }));
  em.create(Connection, { id: connection, workspace: em.getReference(Workspace, world.workspace), service: 'lms', accountName: 'A', sealed });
  await em.flush();
});
afterAll(async () => {
  await server.stop();
  lmsHere.close();
  await store.close();
});

const push = async (set: string, more: object = {}): Promise<SeenPush> => pushUntil(world, await beginPush(world, set, connection, more), 'done', 'failed');
const statuses = (p: SeenPush): string => (p.report.items ?? []).map((i) => i.status).join(' ');
const placements = async (set: string): Promise<{ id: string; container: string }[]> =>
  (await world.owner.get(`/api/v1/sets/${set}/placements`).expect(200)).body as { id: string; container: string }[];
const titles = async (id: string): Promise<string[]> => ((await store.collection(id))?.content.items ?? []).map((i) => i.identifier);

test('courses offer a new quiz and a new bank, and what stands in them', async () => {
  const { body } = await world.owner.get(`/api/v1/connections/${connection}/containers`).expect(200);
  expect((body as { title: string; fresh?: boolean }[]).filter((c) => c.fresh).map((c) => c.title)).toEqual([
    'A new quiz in Bread and Dough',
    'A new bank in Bread and Dough',
    'A new quiz in Kitchen Safety',
    'A new bank in Kitchen Safety',
  ]);
});

test('into a bank and a quiz of choice; five more into the quiz leave the first as they are; what went is taken out', async () => {
  const all = choices(8);
  const set = await world.makeSet(all);
  const bank = await push(set, { container: 'new bank safety', title: 'Flours, kept' });
  expect(bank.report).toMatchObject({ title: 'Flours, kept', rehearsal: { ok: true } });
  const quiz = await push(set, { container: 'new quiz safety', title: 'Flours', items: all.slice(0, 3).map((i) => i.id) });
  expect(statuses(quiz)).toBe('arrived arrived arrived');
  const [there] = await placements(set);
  const container = there?.container ?? '';
  expect((await store.collection(container))?.course).toBe('safety');
  const before = (await store.collection(container))?.content.items;
  expect(statuses(await push(set, { container }))).toBe('same same same arrived arrived arrived arrived arrived');
  expect((await store.collection(container))?.content.items.slice(0, 3)).toEqual(before);
  const fewer = await push(set, { container, takeOut: true, items: all.slice(0, 2).map((i) => i.id) });
  expect(statuses(fewer)).toBe(`same same${' taken out'.repeat(6)}`);
  expect(await titles(container)).toHaveLength(2);
  expect(await placements(set)).toHaveLength(2);
});

test('a worker that died once the quiz was there: the next goes on into it', async () => {
  const set = await world.makeSet(choices(3));
  expect(await pushWithADeath(server, world, set, connection)).toMatchObject({ state: 'done', report: { rehearsal: { ok: true } } });
  expect(await placements(set)).toHaveLength(1);
});

test('version B goes into a bank and into a quiz, each with its own items in its own order; a version that is none is refused', async () => {
  const all = choices(8);
  const set = await world.makeSet(all);
  const drawn = draw(poolOf([{ title: 'Pool', items: all }]), {
    versions: [
      { name: 'A', count: 4 },
      { name: 'B', count: 4 },
    ],
    overlap: 'none',
    seed: 3,
  });
  await world.owner
    .post(`/api/v1/sets/${set}/operations`)
    .send({
      base: ((await world.owner.get(`/api/v1/sets/${set}`).expect(200)).body as { version: number }).version,
      operations: [{ id: newId(), operation: { type: 'draw', drawn } }],
    })
    .expect(200);
  const ids = drawn.versions[1]?.items ?? [];
  for (const container of ['new bank safety', 'new quiz safety']) {
    const p = await push(set, { container, version: 'B' });
    expect(statuses(p)).toBe('arrived arrived arrived arrived');
    expect(p.report.rehearsal).toMatchObject({ ok: true });
    expect(p.report.items?.map((i) => i.item)).toEqual(ids);
    expect(p.report.title).toContain('version B');
  }
  const { body } = await world.owner.get(`/api/v1/sets/${set}/placements`).expect(200);
  expect((body as { version: string }[]).map((p) => p.version)).toEqual(['B', 'B']);
  await world.owner.post(`/api/v1/sets/${set}/pushes`).send({ id: newId(), connectionId: connection, version: 'Z' }).expect(404);

  // published by itself: what was drawn, whatever is drawn later
  const published = await world.owner.post(`/api/v1/sets/${set}/deliveries`).send({ shows: 'score', version: 'A' }).expect(201);
  expect(published.body).toMatchObject({ version: 'A', items: 4 });
  await world.owner.post(`/api/v1/sets/${set}/deliveries`).send({ shows: 'score', version: 'Z' }).expect(404);
});

test('two versions for two groups of a course: each is shown to its own, and says so where it stands', async () => {
  const all = choices(6);
  const set = await world.makeSet(all);
  const drawn = draw(poolOf([{ title: 'Pool', items: all }]), {
    versions: [
      { name: 'A', count: 3 },
      { name: 'B', count: 3 },
    ],
    overlap: 'none',
  });
  const { body: held } = (await world.owner.get(`/api/v1/sets/${set}`).expect(200)) as { body: { version: number } };
  await world.owner
    .post(`/api/v1/sets/${set}/operations`)
    .send({ base: held.version, operations: [{ id: newId(), operation: { type: 'draw', drawn } }] })
    .expect(200);
  const { body: offered } = (await world.owner.get(`/api/v1/connections/${connection}/containers`).expect(200)) as {
    body: { id: string; parts: { id: string }[] }[];
  };
  const parts = offered.find((c) => c.id === 'new quiz bread')?.parts.map((p) => p.id);
  expect(parts).toEqual(['Evening group', 'Morning group']);
  await push(set, { container: 'new quiz bread', version: 'A', part: 'Morning group' });
  await push(set, { container: 'new quiz bread', version: 'B', part: 'Evening group' });
  const { body } = (await world.owner.get(`/api/v1/sets/${set}/placements`).expect(200)) as { body: { version: string; container: string }[] };
  const a = body.find((p) => p.version === 'A')?.container ?? '';
  const answers = { 'q0.RESPONSE': 'A', 'q1.RESPONSE': 'A', 'q2.RESPONSE': 'A' };
  await request(url)
    .post(`/quiz/${a}`)
    .type('form')
    .send({ learner: 'Ada Brandt', ...answers })
    .expect(200);
  expect(
    (
      await request(url)
        .post(`/quiz/${a}`)
        .type('form')
        .send({ learner: 'Mira Castel', ...answers })
        .expect(403)
    ).text,
  ).toContain('for the Morning group');
  const named = (await world.owner.get(`/api/v1/connections/${connection}/containers`).expect(200)).body as { id: string; title: string }[];
  expect(named.find((c) => c.id === a)?.title).toMatch(/version A, quiz in Bread and Dough for the Morning group$/);
  const nobody = await push(set, { container: 'new quiz bread', version: 'A', part: 'Night group' });
  expect(nobody).toMatchObject({ state: 'failed' });
  expect(nobody.report.problem).toContain('no such group');
});

test('what learners did there comes back with the same points, each once', async () => {
  const all: Item[] = [
    ...choices(3),
    { id: newId(), kind: 'ordering', stem: 'Order.', points: 2, sequence: ['mix', 'rest', 'bake'] } as Item,
    { id: newId(), kind: 'numeric', stem: 'How hot?', points: 1, answers: [{ min: 99, max: 101, credit: 1 }] } as Item,
  ];
  const set = await world.makeSet(all);
  await push(set);
  const [there] = await placements(set);
  const fill = (learner: string, right: boolean): request.Test =>
    request(url)
      .post(`/quiz/${there?.container}`)
      .type('form')
      .send({
        learner,
        ...Object.fromEntries([0, 1, 2].map((i) => [`q${i}.RESPONSE`, right ? 'B' : 'A'])),
        'q3.RESPONSE#S1': '1',
        'q3.RESPONSE#S2': right ? '2' : '3',
        'q3.RESPONSE#S3': right ? '3' : '2',
        'q4.RESPONSE': right ? '100' : '50',
      });
  expect((await fill('Ada Brandt', true).expect(200)).text).toContain('9 of 9 points');
  await fill('Otto Finch', false).expect(200);
  const pull = (): Promise<unknown> => world.owner.post(`/api/v1/placements/${there?.id}/pull`).then((r) => r.body as unknown);
  expect(await pull()).toEqual({ added: 2, total: 2 });
  expect(await pull()).toEqual({ added: 0, total: 2 });
  const { body } = await world.owner.get(`/api/v1/placements/${there?.id}/results`).expect(200);
  expect(body).toMatchObject({
    otherwise: 0,
    attempts: [
      { name: 'Ada Brandt', points: 9 },
      { name: 'Otto Finch', points: 0 },
    ],
  });
});

test('scores go to a gradebook; again, only what has changed; a column that was taken out there is made anew', async () => {
  const set = await world.makeSet(choices(1));
  const { body: books } = await world.owner.get(`/api/v1/connections/${connection}/gradebooks`).expect(200);
  const [bread] = books as { id: string; people: { id: string; name: string; mail: string }[] }[];
  expect(bread?.people.map((p) => p.name)).toContain('Ada Brandt');
  const source = newId();
  const send = async (scores: Record<string, number>): Promise<unknown> =>
    (
      await world.owner
        .post(`/api/v1/sets/${set}/grades`)
        .send({ connectionId: connection, source, gradebook: 'bread', title: 'Week two', maximum: 9, scores })
        .expect(200)
    ).body;
  expect(await send({ b0: 9, b1: 4.5, nobody: 1 })).toMatchObject({ changed: 2, sent: { b0: 9, b1: 4.5 }, refused: [{ person: 'nobody' }] });
  expect(await send({ b0: 9, b1: 5 })).toMatchObject({ changed: 1, refused: [] });
  const [column] = await store.columns('bread');
  expect(column).toMatchObject({ title: 'Week two', maximum: 9 });
  expect(new Map(column?.grades.map((g) => [g.person, g.score]))).toEqual(
    new Map([
      ['b0', 9],
      ['b1', 5],
    ]),
  );
  await store.rows('delete from standin_lms.grade_column', []);
  expect(await send({ b0: 8 })).toMatchObject({ changed: 1, sent: { b0: 8 } });
  expect(await send({ b0: 8, b1: 5 })).toMatchObject({ changed: 1, sent: { b0: 8, b1: 5 } });
  await Promise.all([send({ b0: 1 }), send({ b0: 1 }), send({ b2: 2 })]);
  expect(await store.columns('bread')).toHaveLength(1);
  await world.owner
    .post(`/api/v1/sets/${set}/grades`)
    .send({ connectionId: connection, source, gradebook: 'gone', title: 'T', maximum: 1, scores: { b0: 1 } })
    .expect(422);
  await world.owner
    .post(`/api/v1/sets/${set}/grades`)
    .send({ connectionId: connection, source, gradebook: 'bread', title: 'T', maximum: 1, scores: {} })
    .expect(422);
});

test('an address of a gradebook that is none of the web is given to no browser', async () => {
  const set = await world.makeSet(choices(1));
  const odd = await outside((at) => lmsApp(store, at, 'javascript:alert(1)//'));
  process.env['LMS_URL'] = odd.url;
  try {
    const { body } = await world.owner.get(`/api/v1/connections/${connection}/gradebooks`).expect(200);
    expect((body as { link: string }[]).map((b) => b.link)).toEqual(['', '']);
    const sent = { connectionId: connection, source: newId(), gradebook: 'bread', title: 'T', maximum: 1, scores: { b0: 1 } };
    expect((await world.owner.post(`/api/v1/sets/${set}/grades`).send(sent).expect(200)).body).toMatchObject({ changed: 1, link: '' });
    expect((await world.owner.get(`/api/v1/sets/${set}/grades`).expect(200)).body).toMatchObject([{ link: '' }]);
  } finally {
    process.env['LMS_URL'] = url;
    odd.close();
  }
});

describe('the menu of failures: a push arrives whole and once', () => {
  const at = { method: 'POST', path: '/api/courses/' };
  test.each<[string, Trouble[]]>([
    ['an error of the service', [{ kind: 'error', ...at }]],
    ['too many requests', [{ kind: 'limit', ...at, times: 2 }]],
    ['no answer', [{ kind: 'silence', ...at }]],
    ['half an answer', [{ kind: 'half', ...at }]],
    ['done, and the answer lost', [{ kind: 'lost', ...at, times: 2 }]],
    ['delivered twice', [{ kind: 'twice', ...at }]],
    ['reading back fails', [{ kind: 'error', method: 'GET', path: '/api/collections/' }]],
  ])('%s', async (_, list) => {
    const set = await world.makeSet(choices(3));
    const before = (await store.collections()).length;
    await request(url).put('/trouble').send(list).expect(200);
    const done = await push(set, { container: 'new quiz bread' });
    await request(url).put('/trouble').send([]).expect(200);
    expect([done.state, statuses(done), done.report.rehearsal?.ok]).toEqual(['done', 'arrived arrived arrived', true]);
    expect((await store.collections()).length).toBe(before + 1);
  });
});
