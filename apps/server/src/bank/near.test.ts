/** Near-duplicates across sets, what people say of them, views by name, and how items did: through the server. */
import { contentPrint, copiesFor, type Item, joinWith, nearKeys, newId } from '@zakuska/core';
import type { Agent } from 'supertest';
import { startServer, signIn, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';
import { countAnswers, lookAtItems } from './upkeep.js';

let server: TestServer;
let world: World;
let other: World;
let colleague: Agent;
const api = '/api/v1';

const STEM = 'Which flour gives the darkest loaf when it is baked for an hour?';
const choice = (stem: string, more: object = {}): Item =>
  ({
    id: newId(),
    kind: 'multiple-choice',
    stem,
    points: 2,
    options: ['rye flour', 'wheat flour', 'rice flour'].map((content, i) => ({ id: `o${i}`, content, credit: i ? 0 : 1 })),
    ...more,
  }) as Item;
interface Row {
  set: string;
  item: Item;
  use: { answers: number; share?: number; at?: string; sets: number };
}
const groups = async (who: Agent = world.owner): Promise<string[][]> =>
  ((await who.get(`${api}/workspaces/${world.workspace}/bank/near`).expect(200)).body as { groups: { items: Row[] }[] }).groups.map((g) =>
    g.items.map((r) => r.item.stem).toSorted(),
  );
const like = async (item: Item, set?: string): Promise<Row[]> =>
  (
    await world.owner
      .post(`${api}/workspaces/${world.workspace}/bank/like`)
      .send({ item, ...(set && { set }) })
      .expect(200)
  ).body as Row[];
const bank = async (query = ''): Promise<Row[]> =>
  ((await world.owner.get(`${api}/workspaces/${world.workspace}/bank${query}`).expect(200)).body as { items: Row[] }).items;

let first: Item;
let second: Item;
let [setA, setB] = ['', ''];
beforeAll(async () => {
  server = await startServer('zakuska_test_near');
  world = await makeWorld(server, 'near@x.test');
  other = await makeWorld(server, 'far@x.test');
  await world.join('colleague@x.test', 'editor');
  colleague = server.agent();
  await signIn(colleague, 'colleague@x.test', 'pass word');
  first = choice(STEM);
  second = choice('Which flour gives the darkest loaf when baked for one hour?');
  setA = await world.makeSet([first, choice('How long does a stiff sponge rise before it is shaped and proved?')]);
  setB = await world.makeSet([second, choice('Which salt is the coarsest of those that lie on the bench today?')]);
  await other.makeSet([choice(STEM)]);
}, 120_000);
afterAll(() => server.stop());

test('what asks nearly the same is a group, across sets and not across workspaces', async () => {
  expect(await groups()).toEqual([[STEM, second.stem].toSorted()]);
  expect(
    (await world.owner.get(`${api}/workspaces/${world.workspace}/bank/near?from=1`).expect(200)).body as { total: number; groups: unknown[] },
  ).toMatchObject({
    total: 1,
    groups: [],
  });
});

test('an item that is being written is told where it was asked; not its own set, not itself, not what is only alike in its options', async () => {
  const fresh = choice('Which flour gives the darkest loaf, baked for an hour?');
  expect((await like(fresh)).map((r) => r.set).toSorted()).toEqual([setA, setB].toSorted());
  expect((await like(fresh, setA)).map((r) => r.set)).toEqual([setB]);
  expect((await like(first, setA)).map((r) => r.item.id)).toEqual([second.id]);
  expect(await like(choice('What is the name of the baker in the old town square?'))).toEqual([]);
  expect(await like({ ...fresh, kind: 'short-answer' } as Item)).toEqual([]);
  expect(await like({ id: newId(), kind: 'information', stem: STEM, points: 0 } as Item)).toEqual([]);
  await world.owner
    .post(`${api}/workspaces/${world.workspace}/bank/like`)
    .send({ item: { kind: 'nonsense' } })
    .expect(400);
});

test('“not the same” ends it for the group and the item; taken back, it is there again', async () => {
  const items = [
    { set: setA, item: first.id },
    { set: setB, item: second.id },
  ];
  const say = (differ: boolean) => world.owner.post(`${api}/workspaces/${world.workspace}/bank/not-alike`).send({ items, differ }).expect(204);
  await say(true);
  expect(await groups()).toEqual([]);
  expect(await like(first, setA)).toEqual([]);
  await say(false);
  expect(await groups()).toHaveLength(1);
});

test('what one may not see is in no group of theirs, also where it was found before', async () => {
  expect(await groups(colleague)).toHaveLength(1);
  await world.owner.put(`${api}/sets/${setB}/sharing`).send({ restricted: true, shares: [] }).expect(200);
  expect(await groups(colleague)).toEqual([]);
  expect(await groups()).toHaveLength(1);
  await world.owner.put(`${api}/sets/${setB}/sharing`).send({ restricted: false, shares: [] }).expect(200);
});

test('nor where as many others came into sight at the same time, so that nothing else tells that something changed', async () => {
  const say = (set: string, restricted: boolean) => world.owner.put(`${api}/sets/${set}/sharing`).send({ restricted, shares: [] }).expect(200);
  const hidden = await world.makeSet([
    choice('Which whisk is the lightest of all that hang above the stove?'),
    choice('Who wrote the label on the oldest jar of the cellar?'),
  ]);
  await say(hidden, true);
  expect(await groups(colleague)).toHaveLength(1);
  const touched = 'update set_item set changed_at = (select max(changed_at) from set_item)';
  await server.orm.em.fork().getConnection().execute(touched);
  expect(await groups(colleague)).toHaveLength(1);
  await say(setB, true);
  await say(hidden, false);
  expect(await groups(colleague)).toEqual([]);
  await say(setB, false);
  await world.owner.delete(`${api}/sets/${hidden}`).expect(204);
});

test('views are kept by name, one for each, for the person alone', async () => {
  const at = `${api}/workspaces/${world.workspace}/bank/views`;
  await world.owner.put(at).send({ name: 'Rye', address: 'q=rye' }).expect(200);
  await world.owner.put(at).send({ name: 'rye', address: 'q=rye&kind=numeric' }).expect(200);
  const { body } = await world.owner.get(at).expect(200);
  expect(body).toMatchObject([{ name: 'rye', address: 'q=rye&kind=numeric' }]);
  expect((await colleague.get(at).expect(200)).body).toEqual([]);
  const [{ id }] = body as [{ id: string }];
  await colleague.delete(`${at}/${id}`).expect(204);
  expect((await world.owner.get(at).expect(200)).body).toHaveLength(1);
  await world.owner.delete(`${at}/${id}`).expect(204);
  expect((await world.owner.get(at).expect(200)).body).toEqual([]);
});

test('how often an item was answered and with what share, summed over its copies; joined ones count as one', async () => {
  const { id: delivery } = (await world.owner.post(`${api}/sets/${setA}/deliveries`).send({ shows: 'score' }).expect(201)).body as { id: string };
  const em = server.orm.em.fork();
  for (const [n, points] of [2, 2, 1, 0].entries())
    await em.getConnection().execute(
      `insert into attempt (id, delivery_id, token_hash, name, person, seed, responses, marks, points, started_at, submitted_at)
       values (?, ?, 'x', ?, ?, 'seed', '{}', ?::jsonb, ?, now(), timestamptz '2026-11-20T10:00:00Z')`,
      [newId(), delivery, `L ${n}`, `l ${n}`, JSON.stringify({ [first.id]: { points } }), points],
    );
  await em.getConnection().execute('update delivery set responses = 4 where id = ?', [delivery]);
  await countAnswers(em);
  const of = async (id: string): Promise<Row['use'] | undefined> => (await bank()).find((r) => r.item.id === id)?.use;
  // (1 + 1 + ½ + 0) / 4, by hand
  expect(await of(first.id)).toEqual({ answers: 4, share: 0.625, at: '2026-11-20T10:00:00.000Z', sets: 1 });
  expect(await of(second.id)).toEqual({ answers: 0, sets: 1 });
  expect((await bank('?sort=used'))[0]?.item.id).toBe(first.id);
  expect((await bank('?use=used')).map((r) => r.item.id)).toEqual([first.id]);
  expect((await bank('?sort=least-used')).at(-1)?.item.id).toBe(first.id);

  expect((await world.owner.get(`${api}/sets/${setA}/use`).expect(200)).body).toEqual([
    { item: first.id, answers: 4, share: 0.625, at: '2026-11-20T10:00:00.000Z', changed: true },
  ]);

  // nothing new: nothing is counted again
  await em.getConnection().execute('update set_item set answers = 99 where id = ?', [first.id]);
  await countAnswers(em);
  expect((await of(first.id))?.answers).toBe(99);
  await countAnswers(em, setA);
  expect((await of(first.id))?.answers).toBe(4);

  const joined = joinWith(second, first, setA);
  await world.owner
    .post(`${api}/sets/${setB}/operations`)
    .send({ base: 1, operations: [{ id: newId(), operation: joined }] })
    .expect(200);
  expect(await of(second.id)).toMatchObject({ answers: 4, share: 0.625, sets: 2 });
  expect(await of(first.id)).toMatchObject({ answers: 4, sets: 2 });
  // one question now
  expect(await groups()).toEqual([]);
  const there = (await bank()).find((r) => r.item.id === second.id)?.item as Item;
  expect([there.stem, there.takenFrom]).toEqual([STEM, { set: setA, item: first.id, print: contentPrint(first) }]);
});

test('items from before the keys were kept get them, and are the same as those that are written', async () => {
  const em = server.orm.em.fork();
  const keys = async (): Promise<unknown> => em.getConnection().execute('select id, near_keys, findings from set_item order by id');
  const kept = await keys();
  await em.getConnection().execute('update set_item set near_keys = null');
  await lookAtItems(em);
  expect(await keys()).toEqual(kept);
  const [row] = (await em.getConnection().execute('select near_keys from set_item where id = ?', [first.id])) as [{ near_keys: number[] }];
  expect(row.near_keys).toEqual(nearKeys(first));
  expect(nearKeys(copiesFor([first])[0] as Item)).toEqual(nearKeys(first));
});

test('what the checks find in an item is kept with it; of very many at once a little later', async () => {
  const keyless = (stem: string): Item => ({ id: newId(), kind: 'true-false', stem, points: 1, answer: null });
  const total = async (): Promise<number> =>
    ((await world.owner.get(`${api}/workspaces/${world.workspace}/bank?finding=key-missing`).expect(200)).body as { total: number }).total;
  expect(await total()).toBe(0);
  const few = await world.makeSet([keyless('Is there a key to this?'), choice('Which of them has a key that everybody can see?')]);
  expect(await total()).toBe(1);
  const { body } = await world.owner.get(`${api}/workspaces/${world.workspace}/bank/counts`).expect(200);
  expect((body as { finding: object[] }).finding).toEqual(expect.arrayContaining([{ value: 'key-missing', name: expect.any(String), count: 1 }]));
  const [item] = ((await world.owner.get(`${api}/sets/${few}`).expect(200)).body as { document: { set: { items: [Item] } } }).document.set.items;
  await world.owner
    .post(`${api}/sets/${few}/operations`)
    .send({ base: 1, operations: [{ id: newId(), operation: { type: 'change', id: item.id, set: { answer: true } } }] })
    .expect(200);
  expect(await total()).toBe(0);
  await world.makeSet(Array.from({ length: 301 }, (_, n) => keyless(`Statement number ${n} of very many.`)));
  expect(await total()).toBe(0);
  await lookAtItems(server.orm.em.fork());
  expect(await total()).toBe(301);
});

test('how an item goes with the rest of its quiz, by hand; and whether it was changed since', async () => {
  const [good, odd] = [choice('Is rye a grain that grows tall?'), choice('Is barley malted before it is brewed?')];
  const set = await world.makeSet([good, odd]);
  const { id: delivery } = (await world.owner.post(`${api}/sets/${set}/deliveries`).send({ shows: 'score' }).expect(201)).body as { id: string };
  const em = server.orm.em.fork();
  // good: 1 1 1 0 against 1 0 0 1: by hand r = −1/√3
  for (const [n, [a, b]] of [
    [1, 1],
    [1, 0],
    [1, 0],
    [0, 1],
  ].entries())
    await em.getConnection().execute(
      `insert into attempt (id, delivery_id, token_hash, name, person, seed, responses, marks, points, started_at, submitted_at)
       values (?, ?, 'x', ?, ?, 'seed', '{}', ?::jsonb, ?, now(), now() + interval '1 minute')`,
      [newId(), delivery, `L ${n}`, `l ${n}`, JSON.stringify({ [good.id]: { points: a }, [odd.id]: { points: b } }), (a ?? 0) + (b ?? 0)],
    );
  await em.getConnection().execute('update delivery set responses = 4 where id = ?', [delivery]);
  await countAnswers(em);
  const use = (await world.owner.get(`${api}/sets/${set}/use`).expect(200)).body as { item: string; discrimination?: number; changed?: boolean }[];
  expect(use.map((u) => u.changed)).toEqual([undefined, undefined]);
  for (const u of use) expect(u.discrimination).toBeCloseTo(-1 / Math.sqrt(3), 9);
  await em.getConnection().execute(`update set_item set changed_at = now() + interval '1 hour' where set_id = ? and id = ?`, [set, odd.id]);
  const later = (await world.owner.get(`${api}/sets/${set}/use`).expect(200)).body as typeof use;
  expect(later.find((u) => u.item === odd.id)?.changed).toBe(true);
  expect(later.find((u) => u.item === good.id)?.changed).toBeUndefined();
});
