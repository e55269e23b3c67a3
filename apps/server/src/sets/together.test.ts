/** Two people in one set, at two web processes on one database: each sees the other, where they are, and that something is new. */
import { type Item, newId } from '@zakuska/core';
import { startAnother, startServer, type TestServer } from '../testing/server.js';
import { reached, until } from '../testing/streams.js';
import { makeWorld, type World } from '../testing/world.js';
import type { TogetherView } from './together.js';

const item: Item = { id: newId(), kind: 'true-false', stem: 'Rye is a grain.', points: 1, answer: true };
let one: TestServer;
let two: TestServer;
let world: World;
beforeAll(async () => {
  one = await startServer('zakuska_test_together');
  two = await startAnother();
  world = await makeWorld(one, 'ines@saltmarsh.example');
  await world.join('jon@saltmarsh.example', 'reader');
});
afterAll(async () => {
  await two.stop();
  await one.stop();
});

test('who comes, moves and goes, and a change by the other, are told at both', async () => {
  const set = await world.makeSet([item]);
  const [ines, jon] = [await reached(one, 'ines@saltmarsh.example'), await reached(two, 'jon@saltmarsh.example')];
  const tab = newId();
  const open = ({ at, cookie }: typeof ines, place: string, id: string): Promise<Response> =>
    fetch(`${at}/sets/${set}/together/events?tab=${id}&place=${place}`, { headers: { cookie } });
  const seen = await open(ines, 'check', newId());
  expect(await until<TogetherView>(seen, () => true, true)).toMatchObject({ version: 1, people: [] });
  const other = await open(jon, 'draft', tab);
  // one's own page is nobody else
  expect((await until<TogetherView>(other, () => true, true)).people).toEqual([{ name: 'ines@saltmarsh.example', place: 'check' }]);
  expect((await until<TogetherView>(seen, (v) => v.people.length > 0, true)).people).toEqual([{ name: 'jon@saltmarsh.example', place: 'draft' }]);
  const session = (await (await fetch(`${jon.at}/session`, { headers: { cookie: jon.cookie } })).json()) as { csrf: string };
  const moved = await fetch(`${jon.at}/sets/${set}/together`, {
    method: 'PUT',
    headers: { cookie: jon.cookie, 'x-csrf-token': session.csrf, 'content-type': 'application/json' },
    body: JSON.stringify({ tab, place: 'results' }),
  });
  expect(moved.status).toBe(204);
  await until<TogetherView>(seen, (v) => v.people[0]?.place === 'results', true);
  await world.owner
    .post(`/api/v1/sets/${set}/operations`)
    .send({ base: 1, operations: [{ id: newId(), operation: { type: 'change', id: item.id, set: { stem: 'Rye is a cereal.' } } }] })
    .expect(200);
  expect((await until<TogetherView>(other, (v) => v.version === 2)).version).toBe(2);
  // that stream was closed: who looked at it is gone
  expect((await until<TogetherView>(seen, (v) => v.people.length === 0)).version).toBe(2);
});

test('where somebody can be is one of the stages, and who may not see the set sees nobody in it', async () => {
  const set = await world.makeSet([item]);
  const { at, cookie } = await reached(one, 'ines@saltmarsh.example');
  const status = async (query: string, headers: Record<string, string>): Promise<number> =>
    (await fetch(`${at}/sets/${set}/together/events?${query}`, { headers })).status;
  expect(await status(`tab=${newId()}&place=kitchen`, { cookie })).toBe(400);
  expect(await status('tab=none&place=check', { cookie })).toBe(400);
  expect(await status(`tab=${newId()}&place=check`, {})).toBe(401);
});
