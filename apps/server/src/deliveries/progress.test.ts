/** A class over several quizzes: by code, by list and by name; the attempt that counts; nothing of sets that one does not see. */
import type { Item } from '@zakuska/core';
import { signIn, startServer, type TestServer } from '../testing/server.js';
import { handIn, makeWorld, type World } from '../testing/world.js';

const ITEMS = [
  { id: 'rye', kind: 'true-false', stem: 'Rye is a grain.', points: 2, answer: true },
  { id: 'cod', kind: 'true-false', stem: 'Cod is a grain.', points: 1, answer: false },
  { id: 'why', kind: 'essay', stem: 'Why rest the dough?', points: 5 },
] as unknown as Item[];

let server: TestServer;
let world: World;
beforeAll(async () => {
  server = await startServer('zakuska_test_progress');
  world = await makeWorld(server, 'progress@saltmarsh.example');
});
afterAll(() => server.stop());

const answer = (code: string, name: string, rye: boolean, cod: boolean) =>
  handIn(server, code, name, { rye: { truth: rye }, cod: { truth: cod }, why: { text: 'So.' } });
interface Progress {
  quizzes: { id: string; title: string; maximum: number }[];
  people: { name: string; points: (number | null)[] }[];
}

test('each person over the quizzes of their class, in order; the best attempt counts; an essay once it is marked for all', async () => {
  const made = await world.owner
    .post(`/api/v1/workspaces/${world.workspace}/classes`)
    .send({ name: 'Year 8', members: [{ name: 'Ada' }, { name: 'Ben' }, { name: 'Ida' }, { name: 'Ida' }] })
    .expect(201);
  const { id: classList } = made.body as { id: string };
  const progress = async (who = world.owner): Promise<Progress> => (await who.get(`/api/v1/classes/${classList}/progress`).expect(200)).body as Progress;
  expect(await progress()).toEqual({
    quizzes: [],
    people: ['Ada', 'Ben', 'Ida', 'Ida'].map((name) => expect.objectContaining({ name, points: [] }) as object),
  });

  const first = await world.publish(ITEMS, 'score', { title: 'Week one' });
  await answer(first.code, 'ada', true, true);
  await answer(first.code, 'Ada', true, false);
  await answer(first.code, 'Ada', false, false);
  await answer(first.code, 'Somebody else', true, false);
  // two have this name: it is nobody's
  await answer(first.code, 'Ida', true, false);
  const second = await world.publish(ITEMS, 'score', { title: 'Week two', rules: { enter: 'personal' }, classList });
  const { people } = (await world.owner.post(`/api/v1/deliveries/${second.id}/people`).expect(200)).body as { people: { name: string; code: string }[] };
  for (const p of people.filter((x) => x.name !== 'Ada')) await answer(p.code, p.name, p.name === 'Ben', true);

  const seen = await progress();
  expect(seen.quizzes).toMatchObject([
    { title: 'Week one', maximum: 3 },
    { title: 'Week two', maximum: 3 },
  ]);
  expect(seen.people.map((p) => [p.name, ...p.points])).toEqual([
    ['Ada', 3, null],
    ['Ben', null, 2],
    ['Ida', null, 0],
    ['Ida', null, 0],
  ]);
  // a decision holds here at once
  await world.owner
    .post(`/api/v1/deliveries/${second.id}/decisions`)
    .send({ decisions: [{ type: 'full-points', item: 'cod' }] })
    .expect(200);
  expect((await progress()).people.map((p) => p.points[1])).toEqual([null, 3, 1, 1]);

  await world.join('sees@saltmarsh.example', 'reader');
  const reader = server.agent();
  await signIn(reader, 'sees@saltmarsh.example', 'pass word');
  expect((await progress(reader)).quizzes).toHaveLength(2);
  await server.orm.em.fork().getConnection().execute('update quiz_set set restricted = true where id = ?', [first.set]);
  expect((await progress(reader)).quizzes.map((q) => q.title)).toEqual(['Week two']);
  const other = await makeWorld(server, 'another@saltmarsh.example');
  await other.owner.get(`/api/v1/classes/${classList}/progress`).expect(404);
});
