/** Versions published at once: one code, each learner one of them, and the same one whenever they come back. */
import { draw, type Item, newId, poolOf, type RulesChange } from '@zakuska/core';
import { startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';

const items = Array.from({ length: 6 }, (_, n): Item => ({ id: newId(), kind: 'true-false', stem: `Is ${n * 7919} odd?`, points: 1, answer: n % 2 === 1 }));
let server: TestServer;
let world: World;
let set: string;
beforeAll(async () => {
  server = await startServer('zakuska_test_together');
  world = await makeWorld(server, 'together@saltmarsh.example');
  set = await world.makeSet(items);
  const drawn = draw(poolOf([{ title: 'Pool', items }]), { versions: ['A', 'B', 'C'].map((name) => ({ name, count: 2 })), overlap: 'none' });
  await world.owner
    .post(`/api/v1/sets/${set}/operations`)
    .send({ base: 1, operations: [{ id: newId(), operation: { type: 'draw', drawn } }] })
    .expect(200);
});
afterAll(() => server.stop());

interface View {
  id: string;
  version: string;
  together?: string;
  code: string;
  open: boolean;
  paused: boolean;
  responses: number;
}
const listed = async (): Promise<View[]> => (await world.owner.get(`/api/v1/sets/${set}/deliveries`).expect(200)).body as View[];
/** All three versions, with one code. */
async function publish(rules: RulesChange = {}, more: object = {}): Promise<{ code: string; all: View[] }> {
  const { body } = await world.owner
    .post(`/api/v1/sets/${set}/deliveries`)
    .send({ versions: true, rules, ...more })
    .expect(201);
  const first = body as View;
  const all = (await listed()).filter((d) => d.together === first.together).sort((a, b) => (a.version < b.version ? -1 : 1));
  expect(all.map((d) => d.version)).toEqual(['A', 'B', 'C']);
  return { code: first.code, all };
}
interface Begun {
  id: string;
  token: string;
  items: string[];
}
async function begin(code: string, who: object, status = 201): Promise<Begun> {
  const [id, token] = [newId(), `a token of ${newId()}`];
  const { body } = await server
    .agent()
    .post(`/api/v1/take/${code}/attempts`)
    .send({ id, token, ...who })
    .expect(status);
  const state = body as { id: string; items?: { id: string }[] };
  return { id: state.id, token, items: state.items?.map((i) => i.id) ?? [] };
}
const handIn = (a: Begun) => server.agent().post(`/api/v1/take/attempts/${a.id}/submit`).set('x-attempt-token', a.token).send({ responses: {} }).expect(200);
const makeClass = async (names: string[]): Promise<{ id: string; members: { id: string; name: string }[] }> =>
  (
    await world.owner
      .post(`/api/v1/workspaces/${world.workspace}/classes`)
      .send({ name: 'Bread, Monday', members: names.map((name) => ({ name })) })
      .expect(201)
  ).body as never;
const names = Array.from({ length: 9 }, (_, n) => `Learner ${n + 1}`);

test('by one code: as many of each version, by whichever of the codes; who comes back has their own again', async () => {
  const { code, all } = await publish({ attempts: 2 });
  const got: Begun[] = [];
  for (const name of names) got.push(await begin(code, { name }));
  const versions = new Map<string, number>();
  for (const { items: of } of got) versions.set(of.join(), (versions.get(of.join()) ?? 0) + 1);
  expect([...versions.values()]).toEqual([3, 3, 3]);
  await handIn(got[0] as Begun);
  for (const { code: any } of all) expect((await begin(any, { name: names[0] })).items).toEqual(got[0]?.items);
  // attempts are counted over all versions, for the person has but one of them
  await handIn(await begin(code, { name: names[0] }));
  await begin(code, { name: names[0] }, 403);
});

test('by a class list: each has a version of theirs, by their code or by their name', async () => {
  const { id } = await makeClass(names);
  const { all } = await publish({ enter: 'personal' }, { classList: id });
  const people = (
    (await world.owner.post(`/api/v1/deliveries/${all[1]?.id}/people`).expect(200)).body as {
      people: { name: string; code: string; version: string; delivery: string }[];
    }
  ).people;
  expect(people.map((p) => p.name)).toEqual(names);
  for (const { version, id: of } of all) expect(people.filter((p) => p.version === version && p.delivery === of)).toHaveLength(3);
  const seen = new Map<string, string>();
  for (const p of people) seen.set((await begin(p.code, {})).items.join(), p.version);
  expect([...seen.values()].sort()).toEqual(['A', 'B', 'C']);

  const byName = await makeClass(names);
  const list = await publish({ enter: 'list' }, { classList: byName.id });
  const theirs = ((await world.owner.post(`/api/v1/deliveries/${list.all[0]?.id}/people`).expect(200)).body as { people: { id: string; version: string }[] })
    .people;
  for (const p of theirs) {
    const { items: of } = await begin(list.code, { member: p.id });
    expect(seen.get(of.join())).toBe(p.version);
  }
});

test('closed, paused, opened and its rules changed as one', async () => {
  const { code, all } = await publish();
  const change = (n: number, body: object) => world.owner.patch(`/api/v1/deliveries/${all[n]?.id}`).send(body).expect(200);
  const now = async (): Promise<View[]> => (await listed()).filter((d) => d.together === all[0]?.together);
  await change(1, { paused: true });
  expect((await now()).every((d) => d.paused)).toBe(true);
  await begin(code, { name: 'Ada' }, 403);
  await change(2, { paused: false, open: false });
  expect((await now()).every((d) => !d.paused && !d.open)).toBe(true);
  await change(0, { open: true, rules: { minutes: 5 } });
  expect(await now()).toMatchObject(all.map(() => ({ open: true, rules: { minutes: 5 } })));
  // of them, this version's answers only
  await handIn(await begin(code, { name: 'Ada' }));
  const counts = await Promise.all(
    (await now()).map(async (d) => ((await world.owner.get(`/api/v1/deliveries/${d.id}/results`).expect(200)).body as { attempts: object[] }).attempts.length),
  );
  expect(counts.sort()).toEqual([0, 0, 1]);
});

test('without two versions there is nothing to give out', async () => {
  const one = await world.makeSet(items);
  const { body } = await world.owner.post(`/api/v1/sets/${one}/deliveries`).send({ versions: true }).expect(422);
  expect(body).toMatchObject({ code: 'no-versions', detail: expect.stringMatching(/Draw two/) as string });
});
