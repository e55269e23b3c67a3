/** A stop lets what is under way finish, and hangs on nobody who only listens. */
import http from 'node:http';
import type { AddressInfo } from 'node:net';
import { startServer } from '../testing/server.js';
import { makeWorld } from '../testing/world.js';

test('a request that has begun is answered, a page that listens is let go, an idle connection holds nothing up', async () => {
  const server = await startServer('zakuska_test_stopping');
  const world = await makeWorld(server, 'owner@saltmarsh.example');
  const set = await world.makeSet([]);
  await server.app.listen(0, '127.0.0.1');
  const { port } = server.app.getHttpServer().address() as AddressInfo;
  const signed = await fetch(`http://127.0.0.1:${port}/api/v1/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: 'owner@saltmarsh.example', password: 'pass word' }),
  });
  const { csrf } = (await signed.json()) as { csrf: string };
  const cookie = signed.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ');
  // one connection that stays open between requests
  const agent = new http.Agent({ keepAlive: true });
  const ask = (
    method: string,
    path: string,
    headers: object = {},
  ): { request: http.ClientRequest; answer: Promise<number | undefined>; ended: Promise<void> } => {
    const request = http.request({ port, host: '127.0.0.1', method, path: `/api/v1/${path}`, agent, headers: { cookie, ...headers } });
    let over = (): void => undefined;
    const ended = new Promise<void>((done) => (over = done));
    const answer = new Promise<number | undefined>((done, fail) => {
      request.once('error', fail).once('response', (res) => {
        res.resume().once('end', over).once('error', over);
        done(res.statusCode);
      });
    });
    return { request, answer, ended };
  };
  const listening = ask('GET', `sets/${set}/together/events?tab=018f4e3a-0000-7000-8000-0000000000aa&place=check`);
  listening.request.end();
  expect(await listening.answer).toBe(200);
  const idle = ask('GET', 'session');
  idle.request.end();
  expect(await idle.answer).toBe(200);
  const body = JSON.stringify({ title: 'Slow' });
  const slow = ask('POST', `workspaces/${world.workspace}/sets`, { 'x-csrf-token': csrf, 'content-type': 'application/json', 'content-length': body.length });
  slow.request.write(body.slice(0, 4));
  await new Promise((r) => setTimeout(r, 200));

  let stopped = false;
  const stop = server.stop().then(() => (stopped = true));
  await listening.ended;
  expect(stopped).toBe(false);
  slow.request.end(body.slice(4));
  expect(await slow.answer).toBe(201);
  await stop;
  agent.destroy();
});
