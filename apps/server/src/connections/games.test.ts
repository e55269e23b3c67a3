/** A set on its way into a game and back: the stand-in in this process. */
import { type Item, newId } from '@zakuska/core';
import request from 'supertest';
import { gamesApp } from '../../../standins/src/games/app.js';
import { Store } from '../../../standins/src/games/store.js';
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
let gamesHere: Awaited<ReturnType<typeof outside>>;
const connection = newId();

beforeAll(async () => {
  store = new Store(freshDatabase('zakuska_test_games_there'));
  await store.open();
  gamesHere = await outside((at) => gamesApp(store, at));
  process.env['GAMES_URL'] = gamesHere.url;
  process.env['SERVICE_TIMEOUT_MS'] = '800';
  server = await startServer('zakuska_test_games_here');
  world = await makeWorld(server, 'games@x.example');
  await store.tokens.keep('token', 'access', 'm.okafor', 3600);
  await store.tokens.keep('again', 'refresh', 'm.okafor', 3600);
  const em = server.orm.em.fork();
  const sealed = encrypt(JSON.stringify({ accessToken: 'token', refreshToken: 'again', expiresAt: Date.now() + 3_600_000 }));
  em.create(Connection, { id: connection, workspace: em.getReference(Workspace, world.workspace), service: 'games', accountName: 'A', sealed });
  await em.flush();
});
afterAll(async () => {
  await server.stop();
  gamesHere.close();
  await store.close();
});

const push = async (set: string, more: object = {}): Promise<SeenPush> => pushUntil(world, await beginPush(world, set, connection, more), 'done', 'failed');
const statuses = (p: SeenPush): string => (p.report.items ?? []).map((i) => i.status).join(' ');
const placements = async (set: string): Promise<{ id: string; container: string; settings: object }[]> =>
  (await world.owner.get(`/api/v1/sets/${set}/placements`).expect(200)).body as { id: string; container: string; settings: object }[];
const long = (): Item => ({ ...(choices(1)[0] as Item), stem: 'Why? '.repeat(40) });

test('a game with 20 seconds for all; what does not fit is told; more time later changes the rounds in place', async () => {
  const set = await world.makeSet([...choices(3), long()]);
  const made = await push(set, { title: 'Flours at speed', settings: { time: '20', quick: false } });
  expect(made.report).toMatchObject({ title: 'Flours at speed', rehearsal: { items: [{}, {}, {}, { verdict: 'stays' }] } });
  expect(statuses(made)).toBe('arrived arrived arrived');
  const [there] = await placements(set);
  expect(there?.settings).toMatchObject({ time: '20' });
  const container = there?.container ?? '';
  expect((await store.game(container))?.settings).toEqual({ quick: false, shuffle: false });
  expect((await store.rounds(container)).map((r) => r.seconds)).toEqual([20, 20, 20]);
  expect(statuses(await push(set, { container, settings: { time: '20' } }))).toBe('same same same');
  expect(statuses(await push(set, { container, settings: { time: '45' } }))).toBe('changed changed changed');
  expect((await store.rounds(container)).map((r) => r.seconds)).toEqual([45, 45, 45]);
});

test('more into a game leaves what is there, of another set too; what went is taken out', async () => {
  const own = choices(4);
  const [a, b] = [await world.makeSet(own), await world.makeSet(choices(2))];
  await push(a);
  const container = (await placements(a))[0]?.container ?? '';
  const before = await store.rounds(container);
  expect(statuses(await push(b, { container }))).toBe('arrived arrived');
  expect((await store.rounds(container)).slice(0, 4)).toEqual(before);
  const fewer = await push(a, { container, takeOut: true, items: own.slice(0, 3).map((i) => i.id) });
  expect(statuses(fewer)).toBe('same same same taken out');
  expect(await store.rounds(container)).toHaveLength(5);
});

const menu: [string, Trouble[]][] = [
  ['500, twice', [{ kind: 'error', path: '/v1/games', times: 2 }]],
  ['429', [{ kind: 'limit', path: '/v1/games', times: 2 }]],
  ['silence', [{ kind: 'silence', path: '/v1/games' }]],
  ['half an answer', [{ kind: 'half', path: '/v1/games' }]],
  ['done, and the answer lost', [{ kind: 'lost', path: '/v1/games' }]],
  ['delivered twice', [{ kind: 'twice', method: 'POST', path: '/v1/games' }]],
  ['the token ran out', [{ kind: 'expired', path: '/v1/games' }]],
];
test.each(menu)('whole and once in spite of: %s', async (_, troubles) => {
  const set = await world.makeSet(choices(8));
  await request(gamesHere.url).put('/trouble').send(troubles).expect(200);
  const done = await push(set);
  await request(gamesHere.url).put('/trouble').send([]).expect(200);
  expect(done).toMatchObject({ state: 'done', report: { rehearsal: { ok: true } } });
  const own = (await placements(set)).map((p) => p.container);
  expect(own).toHaveLength(1);
  expect(await store.rounds(own[0] ?? '')).toHaveLength(8);
});

// found by `npm run faults -- 24 --clock`: the service takes a key for one request only, and into the game that was made it is another one
test('a worker that died once the game was there: the next goes on into it', async () => {
  const set = await world.makeSet(choices(3));
  expect(await pushWithADeath(server, world, set, connection)).toMatchObject({ state: 'done', report: { rehearsal: { ok: true } } });
  const own = await placements(set);
  expect(own).toHaveLength(1);
  expect(await store.rounds(own[0]?.container ?? '')).toHaveLength(3);
});

test('who got what comes back once, marked by the items as they were sent', async () => {
  const [one, two] = choices(2) as [Item, Item];
  const set = await world.makeSet([one, two]);
  await push(set, { settings: { time: '10' } });
  const [there] = await placements(set);
  const game = await store.game(there?.container ?? '');
  if (!game) throw new Error('no game');
  const begun = await store.beginPlay(game);
  const ada = await store.join(begun, 'Ada');
  await store.join(begun, 'Wen');
  const step = async (): Promise<void> => {
    const p = await store.play(begun);
    if (p) await store.step(p);
  };
  await step();
  await store.answer(ada.id, 0, { chosen: [2], is_right: true, points: 100, after: 1 });
  for (let n = 0; n < 4; n++) await step();
  const pull = async (): Promise<object> => (await world.owner.post(`/api/v1/placements/${there?.id}/pull`).expect(200)).body as object;
  expect(await pull()).toEqual({ added: 2, total: 2 });
  expect(await pull()).toEqual({ added: 0, total: 2 });
  const { body } = await world.owner.get(`/api/v1/placements/${there?.id}/results`).expect(200);
  expect((body as { attempts: { name: string; points: number }[] }).attempts.map((a) => [a.name, a.points])).toEqual([
    ['Ada', 2],
    ['Wen', 0],
  ]);
});

test('a picture goes by an address that was given out, and no other', async () => {
  // the smallest PNG: a single pixel
  const data = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAQAAAC1HAwCAAAAC0lEQVR42mNk+A8AAQUBAScY42YAAAAASUVORK5CYII=';
  const [item] = choices(1) as [Item];
  const set = await world.makeSet([{ ...item, stem: `<p>Which flour is this?</p><img src="data:image/png;base64,${data}" alt="flour"/>` }]);
  expect((await push(set)).report).toMatchObject({ rehearsal: { ok: true } });
  const address = (await store.rounds((await placements(set))[0]?.container ?? ''))[0]?.picture ?? '';
  const { pathname } = new URL(address);
  const picture = await server.agent().get(pathname).expect(200);
  expect(picture.headers['content-type']).toBe('image/png');
  expect(Buffer.from(picture.body as Uint8Array).toString('base64')).toBe(data);
  await server
    .agent()
    .get(pathname.replace(/.$/, (c) => (c === 'A' ? 'B' : 'A')))
    .expect(404);
});
