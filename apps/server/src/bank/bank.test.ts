/** The bank: items across sets by words, parts of words and filters; what it counts; what it keeps from others. */
import { type Item, newId } from '@zakuska/core';
import { startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';
import { keepCounts } from './counts.js';

let server: TestServer;
let world: World;
let other: World;

const item = (stem: string, more: object = {}): Item => ({ id: newId(), kind: 'true-false', stem, points: 1, answer: true, ...more }) as Item;
const found = async (query: string, as = world): Promise<{ total: number; stems: string[] }> => {
  const { body } = await as.owner.get(`/api/v1/workspaces/${as.workspace}/bank?${query}`).expect(200);
  const page = body as { total: number; items: { item: Item }[] };
  return { total: page.total, stems: page.items.map((i) => i.item.stem).toSorted() };
};

let bread: string;
beforeAll(async () => {
  server = await startServer('zakuska_test_bank');
  world = await makeWorld(server, 'bank@x.example');
  other = await makeWorld(server, 'other@x.example');
  bread = await world.makeSet([
    item('The baker <strong>kneads</strong> the dough twice.', { outcomes: ['Dough'], tags: ['week 1'], level: { difficulty: 0.2 } }),
    item('Kneading warms the dough.', { outcomes: ['Dough', 'Heat'], points: 3, level: { difficulty: 0.9 } }),
    item('Der Bäcker knetete die Teige.', { language: 'de', outcomes: ['Dough'] }),
  ]);
  await world.makeSet([
    {
      id: newId(),
      kind: 'multiple-choice',
      stem: 'Which one is sour?',
      points: 2,
      tags: ['week 1'],
      options: [
        { id: 'a', content: 'sauerkraut', credit: 1 },
        { id: 'b', content: 'sugar', credit: 0 },
      ],
    } as Item,
    item('Brine holds 100 % of the salt.'),
  ]);
  await other.makeSet([item('The baker kneads elsewhere.')]);
});
afterAll(async () => {
  await server.stop();
});

test.each([
  ['all of it', '', 5],
  ['by the root of a word, in the item’s language', 'q=knead', 2],
  ['the same in German', 'q=Teig', 1],
  ['a form of a word', 'q=kneaded', 2],
  ['words of options', 'q=sugar', 1],
  ['a part of a word', 'q=auerkr', 1],
  ['two words', 'q=baker%20dough', 1],
  ['a phrase', 'q=%22the%20dough%22', 2],
  ['without a word', 'q=dough%20-baker', 1],
  ['no markup', 'q=strong', 0],
  ['signs that mean something to the database', 'q=100%20%25%20of', 1],
  ['nothing of it', 'q=anvil', 0],
  ['a kind', 'kind=multiple-choice', 1],
  ['two kinds', 'kind=multiple-choice&kind=true-false', 5],
  ['an outcome', 'outcome=Heat', 1],
  ['an outcome and a tag', 'outcome=Dough&tag=week%201', 1],
  ['a state', 'state=checked', 0],
  ['words and a filter', 'q=dough&outcome=Heat', 1],
])('%s', async (_, query, total) => expect((await found(query)).total).toBe(total));

test('by a folder with all that lies in it, by none, by who made the set and by level; counted for each folder above', async () => {
  const at = `/api/v1/workspaces/${world.workspace}`;
  const make = async (name: string, parent?: string): Promise<string> =>
    (
      (
        await world.owner
          .post(`${at}/folders`)
          .send({ name, ...(parent && { parent }) })
          .expect(201)
      ).body as { id: string }
    ).id;
  const top = await make('Course');
  const unit = await make('Unit', top);
  await world.owner.put(`/api/v1/sets/${bread}/folder`).send({ folder: unit }).expect(204);
  expect([(await found(`folder=${top}`)).total, (await found(`folder=${unit}`)).total, (await found('folder=none')).total]).toEqual([3, 3, 2]);
  expect((await found(`folder=none&folder=${unit}`)).total).toBe(5);
  expect((await found(`folder=${top}&q=dough`)).total).toBe(2);
  const counts = (await world.owner.get(`${at}/bank/counts`).expect(200)).body as Record<string, { value: string; name?: string; count: number }[]>;
  expect(counts['folder']).toEqual(
    expect.arrayContaining([
      { value: top, name: 'Course', count: 3 },
      { value: unit, name: 'Course / Unit', count: 3 },
      { value: 'none', count: 2 },
    ]),
  );
  const [author] = counts['author'] ?? [];
  expect(author).toMatchObject({ name: 'bank@x.example', count: 5 });
  expect((await found(`author=${author?.value ?? ''}`)).total).toBe(5);
  expect((await found('level=apply')).total).toBe(0);
  expect([(await found('difficulty=easy')).total, (await found('difficulty=hard')).total, (await found('difficulty=unknown&difficulty=hard')).total]).toEqual([
    1, 1, 4,
  ]);
  expect([
    (await found('points=1')).total,
    (await found('points=2&points=3')).total,
    (await found('use=used')).total,
    (await found('use=never')).total,
  ]).toEqual([3, 2, 0, 5]);
  expect(counts['points']).toEqual([
    { value: '1', count: 3 },
    { value: '2', count: 1 },
    { value: '3', count: 1 },
  ]);
  expect(counts['difficulty']).toEqual([
    { value: 'unknown', count: 3 },
    { value: 'easy', count: 1 },
    { value: 'hard', count: 1 },
  ]);
  await world.owner.get(`${at}/bank?level=genius`).expect(400);
  expect((await found('from=200')).total).toBe(5);
  await world.owner.put(`/api/v1/sets/${bread}/folder`).send({ folder: null }).expect(204);
});

test('by its set; sorted as asked; a page at a time', async () => {
  expect((await found(`set=${bread}`)).total).toBe(3);
  const sorted = async (by: string): Promise<unknown[]> =>
    ((await world.owner.get(`/api/v1/workspaces/${world.workspace}/bank?sort=${by}`).expect(200)).body as { items: { item: Item }[] }).items.map((i) =>
      by === 'points' ? i.item.points : i.item.level?.difficulty,
    );
  expect(await sorted('points')).toEqual([3, 2, 1, 1, 1]);
  expect(await sorted('difficulty')).toEqual([0.9, 0.2, undefined, undefined, undefined]);
  expect((await found('from=3')).stems.length).toBe(2);
});

test('what fits best stands first, as the database itself ranks it', async () => {
  const { body } = await world.owner.get(`/api/v1/workspaces/${world.workspace}/bank?q=dough%20or%20baker`).expect(200);
  const ours = (body as { items: { item: Item }[] }).items.map((i) => i.item.id);
  const rows = await server.orm.em
    .fork()
    .getConnection()
    .execute<{ id: string }[]>(
      `select i.id from set_item i join quiz_set s on s.id = i.set_id where s.workspace_id = ? and i.search @@ websearch_to_tsquery('english', 'dough or baker')
       order by ts_rank(i.search, websearch_to_tsquery('english', 'dough or baker')) desc`,
      [world.workspace],
    );
  expect(ours.slice(0, 1)).toEqual(rows.slice(0, 1).map((r) => r.id));
  expect(new Set(ours)).toEqual(new Set(rows.map((r) => r.id)));
});

test('each value of a filter says how many it would leave, with the others as they are', async () => {
  const counts = async (query: string): Promise<Record<string, { value: string; name?: string; count: number }[]>> =>
    (await world.owner.get(`/api/v1/workspaces/${world.workspace}/bank/counts?${query}`).expect(200)).body as never;
  const all = await counts('');
  expect(all['kind']).toEqual([
    { value: 'true-false', count: 4 },
    { value: 'multiple-choice', count: 1 },
  ]);
  expect(all['outcome']).toEqual([
    { value: 'Dough', count: 3 },
    { value: 'Heat', count: 1 },
  ]);
  expect(all['set']?.map((s) => [s.name !== undefined, s.count])).toEqual([
    [true, 3],
    [true, 2],
  ]);
  // its own choice does not narrow a filter, others do
  const narrowed = await counts('kind=multiple-choice&tag=week%201');
  expect(narrowed['kind']).toEqual([
    { value: 'multiple-choice', count: 1 },
    { value: 'true-false', count: 1 },
  ]);
  expect(narrowed['tag']).toEqual([{ value: 'week 1', count: 1 }]);
});

describe('counts that are kept with the sets', () => {
  const uncounted = async (): Promise<string[]> =>
    ((await server.orm.em.fork().getConnection().execute('select id from quiz_set where item_counts is null')) as { id: string }[]).map((r) => r.id);
  const asked = ['', 'folder=none', 'kind=true-false', 'tag=week%201&outcome=Dough', 'q=dough', 'state=checked&folder=none'];
  const counts = async (query: string): Promise<object> =>
    (await world.owner.get(`/api/v1/workspaces/${world.workspace}/bank/counts?${query}`).expect(200)).body as object;
  const operate = async (set: string, operation: object): Promise<void> => {
    const { body } = (await world.owner.get(`/api/v1/sets/${set}`).expect(200)) as { body: { version: number } };
    await world.owner
      .post(`/api/v1/sets/${set}/operations`)
      .send({ base: body.version, operations: [{ id: newId(), operation }] })
      .expect(200);
  };

  test('are those that counting gives, of sets and folders, before and after, and of some that are kept and some that are not', async () => {
    const author = ((await world.owner.get('/api/v1/session')).body as { accountId: string }).accountId;
    const all = [...asked, `set=${bread}`, `author=${author}&set=${bread}&kind=true-false`];
    await server.orm.em.fork().getConnection().execute('update quiz_set set item_counts = null');
    const plain = await Promise.all(all.map(counts));
    await keepCounts(server.orm.em.fork());
    expect(await uncounted()).toEqual([]);
    expect(await Promise.all(all.map(counts))).toEqual(plain);
    await server.orm.em.fork().getConnection().execute('update quiz_set set item_counts = null where id = ?', [bread]);
    expect(await Promise.all(all.map(counts))).toEqual(plain);
    expect((plain[0] as { kind: object[] }).kind.length).toBeGreaterThan(1);
  });

  test('are gone with everything that is written to an item of the set, and with nothing else', async () => {
    const items = [item('Salt is a mineral.', { tags: ['salt'] }), item('Water is wet.')];
    const set = await world.makeSet(items);
    const [first, second] = items.map((i) => i.id);
    const em = server.orm.em.fork();
    for (const operation of [
      { type: 'change', id: first, set: { points: 4, tags: ['salt', 'sea'] } },
      { type: 'review', id: first, review: { state: 'checked', at: new Date().toISOString(), by: 'x' } },
      { type: 'insert', at: 2, items: [item('Rice is a grain.')] },
      { type: 'remove', ids: [second] },
    ]) {
      await keepCounts(em);
      await operate(set, operation);
      expect([operation.type, await uncounted()]).toEqual([operation.type, [set]]);
      const now = await counts('');
      await keepCounts(em);
      expect(await counts('')).toEqual(now);
    }
    await em.getConnection().execute('update set_item set answers = 3 where set_id = ?', [set]);
    expect(await uncounted()).toEqual([set]);
    await keepCounts(em);
    // it lies elsewhere: its items are what they were
    await world.owner.put(`/api/v1/sets/${set}/folder`).send({ folder: null }).expect(204);
    expect(await uncounted()).toEqual([]);
  });

  test('two who keep them at once, and somebody who writes meanwhile', async () => {
    const sets = await Promise.all(Array.from({ length: 6 }, (_, n) => world.makeSet([item(`Loaf ${n}.`), item(`Crust ${n}.`)])));
    const em = server.orm.em.fork();
    const writing = sets.map((set) => operate(set, { type: 'insert', at: 0, items: [item('One more.')] }));
    await Promise.all([...writing, keepCounts(server.orm.em.fork()), keepCounts(server.orm.em.fork())]);
    await keepCounts(em);
    const kept = await counts('');
    await em.getConnection().execute('update quiz_set set item_counts = null');
    expect(await counts('')).toEqual(kept);
  });
});

test('an edit is found at once, in the language that the set says', async () => {
  const set = await world.makeSet([item('Le pain lève.')]);
  const edit = async (operation: object): Promise<void> => {
    const { body } = (await world.owner.get(`/api/v1/sets/${set}`).expect(200)) as { body: { version: number } };
    await world.owner
      .post(`/api/v1/sets/${set}/operations`)
      .send({ base: body.version, operations: [{ id: newId(), operation }] })
      .expect(200);
  };
  const first = (await found(`set=${set}`)).total;
  expect(first).toBe(1);
  expect((await found(`q=lever&set=${set}`)).total).toBe(0);
  await edit({ type: 'describe', set: { language: 'fr' } });
  expect((await found(`q=pains&set=${set}`)).total).toBe(1);
  const { body } = (await world.owner.get(`/api/v1/sets/${set}`).expect(200)) as { body: { document: { set: { items: Item[] } } } };
  await edit({ type: 'change', id: body.document.set.items[0]?.id, set: { stem: 'La pâte repose.' } });
  expect((await found(`q=pains&set=${set}`)).total).toBe(0);
  expect((await found(`q=pâtes&set=${set}`)).total).toBe(1);
  // into the bin with the set, and it is found no more
  await world.owner.delete(`/api/v1/sets/${set}`).expect(204);
  expect((await found(`q=pâtes`)).total).toBe(0);
});

test('of other workspaces nothing is found or counted, and nobody else looks into this one', async () => {
  expect((await found('q=kneads', other)).stems).toEqual(['The baker kneads elsewhere.']);
  await other.owner.get(`/api/v1/workspaces/${world.workspace}/bank`).expect(404);
  await other.owner.get(`/api/v1/workspaces/${world.workspace}/bank/counts`).expect(404);
});
test.each(['kind=riddle', 'sort=luck', 'from=-1', 'set=1', `q=${'x'.repeat(301)}`])('what cannot be asked is refused: %.20s', (query) =>
  world.owner.get(`/api/v1/workspaces/${world.workspace}/bank?${query}`).expect(400),
);
