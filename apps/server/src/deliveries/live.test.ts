/** The live view in two web processes on one database: what learners do at one is seen by a teacher at the other. */
import { type Item, newId } from '@zakuska/core';
import { startAnother, startServer, type TestServer } from '../testing/server.js';
import { reached, until } from '../testing/streams.js';
import { makeWorld, type World } from '../testing/world.js';

const item: Item = { id: newId(), kind: 'true-false', stem: 'Rye is a grain.', points: 1, answer: true };
let one: TestServer;
let two: TestServer;
let world: World;
beforeAll(async () => {
  one = await startServer('zakuska_test_live');
  two = await startAnother();
  world = await makeWorld(one, 'live@saltmarsh.example');
});
afterAll(async () => {
  await two.stop();
  await one.stop();
});

interface Seen {
  attempts: { name: string; states: Record<string, string>; submittedAt?: string; points?: number }[];
}
test('begun, answered and handed in at one, seen at the other; and again right after the page was loaded anew', async () => {
  const { id, code } = await world.publish([item], 'score');
  const { at, cookie } = await reached(two, 'live@saltmarsh.example');
  const watch = (): Promise<Response> => fetch(`${at}/deliveries/${id}/events`, { headers: { cookie } });
  const stream = await watch();
  expect(stream.status).toBe(200);

  const learner = one.agent();
  const [attempt, token] = [newId(), `a token of ${newId()}`];
  const send = (method: 'put' | 'post', path: string, body: object) =>
    learner[method](`/api/v1/take/attempts/${attempt}${path}`).set('x-attempt-token', token).send(body).expect(200);
  await learner.post(`/api/v1/take/${code}/attempts`).send({ id: attempt, token, name: 'Ada Brandt' }).expect(201);
  await send('put', '', { responses: { [item.id]: { truth: false } } });
  await until<Seen>(stream, ({ attempts }) => attempts[0]?.states[item.id] === 'wrong');
  await send('post', '/submit', { responses: { [item.id]: { truth: true } } });
  const seen = await until<Seen>(await watch(), ({ attempts }) => attempts[0]?.submittedAt !== undefined);
  expect(seen.attempts).toMatchObject([{ name: 'Ada Brandt', points: 1, states: { [item.id]: 'right' } }]);
});
