/** Tables of answers that are kept: results of the set like those of services, marked anew like them, and removed with all that is in them. */
import { type Item, newId } from '@zakuska/core';
import { startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';

const ITEMS = [
  {
    id: 'flour',
    kind: 'multiple-choice',
    stem: 'Which flour?',
    points: 2,
    options: [
      { id: 'a', content: 'rye', credit: 1 },
      { id: 'b', content: 'oat', credit: 0 },
    ],
  },
  { id: 'name', kind: 'short-answer', stem: 'What is it called?', points: 1, answers: [{ text: 'autolyse', credit: 1 }] },
] as unknown as Item[];
const PEOPLE = [
  { name: 'Ada', mail: 'ada@saltmarsh.example', at: '2026-11-02T09:05:00Z', responses: { flour: { options: ['a'] }, name: { text: 'Autolyse' } } },
  { name: 'Otto', responses: { flour: { options: ['b'] }, name: { text: 'rest' }, nonsense: { text: 'x' } } },
];

let server: TestServer;
let world: World;
beforeAll(async () => {
  server = await startServer('zakuska_test_tables');
  world = await makeWorld(server, 'tables@saltmarsh.example');
});
afterAll(() => server.stop());

const keep = (set: string, body: object, status = 201) => world.owner.post(`/api/v1/sets/${set}/tables`).send(body).expect(status);
interface Results {
  set: { title: string; items: { id: string }[] };
  attempts: { id: string; name: string; mail?: string; points: number; submittedAt: string }[];
}
const results = async (id: string): Promise<Results> => (await world.owner.get(`/api/v1/placements/${id}/results`).expect(200)).body as Results;

test('its people are results of the set; sent again it is the same; decisions hold for it', async () => {
  const set = await world.makeSet([]);
  const body = { id: newId(), title: 'week two.csv', items: ITEMS, people: PEOPLE };
  await keep(set, body);
  await keep(set, body);
  const { body: list } = await world.owner.get(`/api/v1/sets/${set}/placements`).expect(200);
  expect(list).toMatchObject([{ id: body.id, service: 'table', title: 'week two.csv', responses: 2, pulls: false }]);
  expect((await world.owner.get(`/api/v1/sets/${set}`).expect(200)).body).toMatchObject({ responses: 2 });
  const first = await results(body.id);
  expect(first.set.title).toBe('week two.csv');
  expect(first.set.items.map((i) => i.id)).toEqual(['flour', 'name']);
  expect(first.attempts.map((a) => [a.name, a.points, a.mail ?? ''])).toEqual([
    ['Ada', 3, 'ada@saltmarsh.example'],
    ['Otto', 0, ''],
  ]);
  expect(first.attempts[0]?.submittedAt).toBe('2026-11-02T09:05:00.000Z');
  await world.owner
    .post(`/api/v1/placements/${body.id}/decisions`)
    .send({
      decisions: [
        { type: 'answer', item: 'name', text: 'rest', credit: 1 },
        { type: 'hand', item: 'flour', attempt: first.attempts[1]?.id, points: 1 },
      ],
    })
    .expect(200);
  expect((await results(body.id)).attempts.map((a) => a.points)).toEqual([3, 2]);
});

test('which of several answers of a person counts, and what being late takes off, is said afterwards and taken back', async () => {
  const set = await world.makeSet([]);
  const id = newId();
  const ada = PEOPLE[0]!;
  const again = { ...ada, at: '2026-11-04T09:00:00Z' };
  const worse = { ...ada, at: '2026-11-03T09:00:00Z', responses: { flour: { options: ['b'] }, name: { text: 'autolyse' } } };
  await keep(set, { id, title: 'twice.csv', items: ITEMS, people: [ada, worse, again, { name: '', responses: {} }, { name: '', responses: {} }] });
  const rule = (rules: object, status = 200) => world.owner.put(`/api/v1/placements/${id}/rules`).send({ rules }).expect(status);
  type Sat = Results['attempts'][number] & { counts?: number; kept?: number };
  const sat = async (): Promise<Sat[]> => (await results(id)).attempts as Sat[];
  expect((await sat()).every((a) => a.counts === undefined && a.kept === undefined)).toBe(true);

  // due on the second, a quarter for each day: nothing, one day and two days later
  const late = { due: '2026-11-02T12:00:00.000Z', percent: 25, per: 'day' };
  await rule({ counts: 'mean', late });
  const by = new Map((await sat()).map((a) => [a.id, a]));
  expect(['row 1', 'row 2', 'row 3'].map((r) => [by.get(r)?.points, by.get(r)?.kept])).toEqual([
    [3, undefined],
    [0.75, 0.75],
    [1.5, 0.5],
  ]);
  // (3 + 0.75 + 1.5) / 3, with the last; of two without a name each is somebody
  expect(['row 1', 'row 2', 'row 3'].map((r) => by.get(r)?.counts)).toEqual([undefined, undefined, 1.75]);
  expect(['row 4', 'row 5'].map((r) => by.get(r)?.counts)).toEqual([0, 0]);
  await rule({ counts: 'best' });
  expect((await sat()).filter((a) => a.counts !== undefined && a.name === 'Ada').map((a) => [a.id, a.counts])).toEqual([['row 1', 3]]);
  const { body } = await world.owner.get(`/api/v1/sets/${set}/placements`).expect(200);
  expect(body).toMatchObject([{ rules: { counts: 'best' } }]);

  await rule({ counts: 'luck' }, 400);
  await rule({ late: { ...late, percent: 200 } }, 400);
  await rule({});
  expect((await sat()).every((a) => a.counts === undefined)).toBe(true);
});

test('many people come whole; nothing of a table that is wrong is kept', async () => {
  const set = await world.makeSet([]);
  const many = { id: newId(), title: 'All', items: ITEMS, people: Array.from({ length: 700 }, (_, n) => ({ ...PEOPLE[n % 2], name: `P${n}` })) };
  await keep(set, many);
  expect((await results(many.id)).attempts).toHaveLength(700);
  await keep(set, { id: newId(), title: 'x', items: [{ kind: 'riddle' }], people: PEOPLE }, 400);
  await keep(set, { id: newId(), title: 'x', items: ITEMS, people: [] }, 400);
  await keep(set, { id: newId(), title: 'x', items: ITEMS, people: [{ name: 'Ada', responses: {}, at: 'tomorrow' }] }, 400);
  const { body: list } = await world.owner.get(`/api/v1/sets/${set}/placements`).expect(200);
  expect(list).toHaveLength(1);
});

test('it is removed with all its answers; what stands at a service is not', async () => {
  const set = await world.makeSet([]);
  const id = newId();
  await keep(set, { id, title: 'x', items: ITEMS, people: PEOPLE });
  await world.owner.delete(`/api/v1/placements/${id}`).expect(204);
  await world.owner.get(`/api/v1/placements/${id}/results`).expect(404);
  const left = await server.orm.em.fork().getConnection().execute('select 1 from pulled_response where placement_id = ?', [id]);
  expect(left).toEqual([]);
});
