/** The live view in two web processes on one database: what learners do at one is seen by a teacher at the other. */
import type { AddressInfo } from 'node:net';
import { type Item, newId } from '@zakuska/core';
import { startAnother, startServer, type TestServer } from '../testing/server.js';
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
/** What a stream of events brings, until it is what is waited for. */
async function until(response: Response, is: (seen: Seen) => boolean): Promise<Seen> {
  const reader = response.body?.getReader();
  let text = '';
  for (;;) {
    const { value, done } = (await reader?.read()) ?? { done: true, value: undefined };
    if (done) throw new Error(`the stream ended: ${text.slice(-300)}`);
    text += new TextDecoder().decode(value as Uint8Array);
    const [, data] = /data: (.+)\n\n$/.exec(text.slice(text.lastIndexOf('data: '))) ?? [];
    if (data === undefined) continue;
    const seen = JSON.parse(data) as Seen;
    if (is(seen)) {
      await reader?.cancel();
      return seen;
    }
  }
}

test('begun, answered and handed in at one, seen at the other; and again right after the page was loaded anew', async () => {
  const { id, code } = await world.publish([item], 'score');
  await two.app.listen(0, '127.0.0.1');
  const { port } = two.app.getHttpServer().address() as AddressInfo;
  const at = `http://127.0.0.1:${port}/api/v1`;
  const signed = await fetch(`${at}/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: 'live@saltmarsh.example', password: 'pass word' }),
  });
  const cookie = signed.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ');
  const watch = (): Promise<Response> => fetch(`${at}/deliveries/${id}/events`, { headers: { cookie } });
  const stream = await watch();
  expect(stream.status).toBe(200);

  const learner = one.agent();
  const [attempt, token] = [newId(), `a token of ${newId()}`];
  const send = (method: 'put' | 'post', path: string, body: object) =>
    learner[method](`/api/v1/take/attempts/${attempt}${path}`).set('x-attempt-token', token).send(body).expect(200);
  await learner.post(`/api/v1/take/${code}/attempts`).send({ id: attempt, token, name: 'Ada Brandt' }).expect(201);
  await send('put', '', { responses: { [item.id]: { truth: false } } });
  await until(stream, ({ attempts }) => attempts[0]?.states[item.id] === 'wrong');
  await send('post', '/submit', { responses: { [item.id]: { truth: true } } });
  const seen = await until(await watch(), ({ attempts }) => attempts[0]?.submittedAt !== undefined);
  expect(seen.attempts).toMatchObject([{ name: 'Ada Brandt', points: 1, states: { [item.id]: 'right' } }]);
});
