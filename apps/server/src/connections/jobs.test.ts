/** What was acknowledged is done: whatever dies on the way, and whoever asks twice. */
import http from 'node:http';
import type { AddressInfo } from 'node:net';
import { jest } from '@jest/globals';
import { type Item, newId } from '@zakuska/core';
import { Workspace } from '../accounts/entities.js';
import { encrypt } from '../platform/secrets.js';
import { startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';
import { Connection, Push } from './entities.js';
import { Jobs } from './jobs.js';
import { webAddress } from './webAddress.js';

let server: TestServer;
let world: World;
let set: string;
let connection: string;
/** What the service does with an import. */
let service: (q: http.IncomingMessage, r: http.ServerResponse) => void;
let lms: http.Server;
const imports: string[] = [];

beforeAll(async () => {
  lms = http.createServer((q, r) => {
    if (q.url === '/api/courses') return void r.writeHead(200).end(JSON.stringify({ courses: [{ id: 'c', name: 'C', collections: [] }] }));
    if (q.method !== 'POST') return void r.writeHead(404).end('{}');
    imports.push(String(q.headers['idempotency-key']));
    q.resume().on('end', () => service(q, r));
  });
  await new Promise<void>((done) => lms.listen(0, '127.0.0.1', done));
  process.env['LMS_URL'] = `http://127.0.0.1:${(lms.address() as AddressInfo).port}`;
  server = await startServer('zakuska_test_jobs');
  world = await makeWorld(server, 'owner@x.example');
  const item: Item = { id: newId(), kind: 'true-false', stem: 'Salt is salt.', points: 1, answer: true };
  set = await world.makeSet([item]);
  const em = server.orm.em.fork();
  const c = em.create(Connection, {
    id: newId(),
    workspace: em.getReference(Workspace, world.workspace),
    service: 'lms',
    accountName: 'A',
    sealed: encrypt(JSON.stringify({ accessToken: 'x', expiresAt: Date.now() + 3_600_000 })),
  });
  await em.flush();
  connection = c.id;
});
afterAll(async () => {
  await server.stop();
  lms.closeAllConnections();
  lms.close();
});
beforeEach(() => {
  imports.length = 0;
  service = (_, r) =>
    r.writeHead(201, { 'content-type': 'application/json' }).end(JSON.stringify({ id: 'q', link: 'http://x.example/l', title: 'T', items: [] }));
});

const push = async (id = newId()): Promise<string> => {
  await world.owner.post(`/api/v1/sets/${set}/pushes`).send({ id, connectionId: connection }).expect(201);
  return id;
};
const row = (id: string): Promise<Push> => server.orm.em.fork().findOneOrFail(Push, { id });
const until = async (id: string, state: Push['state']): Promise<Push> => {
  for (let n = 0; n < 600; n++) {
    const p = await row(id);
    if (p.state === state) return p;
    await new Promise((r) => setTimeout(r, 50));
  }
  throw new Error(`never ${state}: ${JSON.stringify(await row(id))}`);
};
const change = (id: string, to: string): Promise<unknown> => server.orm.em.fork().getConnection().execute(`update push set ${to} where id = ?`, [id]);

test('a push arrives once, asked for twice at once or not', async () => {
  const id = newId();
  await Promise.allSettled([push(id), push(id)]);
  await push(id);
  expect((await until(id, 'done')).report).toMatchObject({ link: 'http://x.example/l' });
  expect(imports.filter((k) => k === id)).toHaveLength(1);
});

test('of many who find a push at once one works on it', async () => {
  let open = 0;
  let most = 0;
  service = (_, r) => {
    most = Math.max(most, ++open);
    setTimeout(() => {
      open--;
      r.writeHead(201, { 'content-type': 'application/json' }).end(JSON.stringify({ id: 'q', link: 'http://x.example/l', title: 'T', items: [] }));
    }, 300);
  };
  const id = await push();
  const jobs = server.app.get(Jobs);
  await Promise.all(Array.from({ length: 8 }, () => jobs.run(id)));
  await until(id, 'done');
  expect(most).toBe(1);
  expect(imports).toHaveLength(1);
});

test('a job that the queue lost, and the work of a worker that was killed, are found by a look at the rows', async () => {
  const lost = await push();
  await until(lost, 'done');
  await change(lost, "state = 'waiting', beat = null, next_at = null, created_at = now() - interval '1 minute'");
  const killed = await push();
  await until(killed, 'done');
  await change(killed, "state = 'running', worker = 'a worker that is no more', beat = now() - interval '1 minute', tries = 1");
  await server.app.get(Jobs).look();
  // the server's own look may have come first, and be at it
  for (const id of [lost, killed]) await until(id, 'done');
  expect(await row(lost)).toMatchObject({ state: 'done', beat: null });
  expect(await row(killed)).toMatchObject({ state: 'done', worker: null });
});

test('a row whose writer had a clock that is ahead is found too; when to try again is told by the clock of the database', async () => {
  const id = await push();
  await until(id, 'done');
  await change(id, "state = 'waiting', beat = null, next_at = null, created_at = now() + interval '1 hour'");
  const ahead = jest.spyOn(Date, 'now').mockImplementation(() => performance.timeOrigin + performance.now() + 3_600_000);
  try {
    await server.app.get(Jobs).look();
    await until(id, 'done');
    service = (_, r) => r.destroy();
    const failing = await push();
    await until(failing, 'waiting');
    await server.app.get(Jobs).run(failing);
    await until(failing, 'waiting');
    const next = (await row(failing)).nextAt;
    expect(next === null || next.getTime() < performance.timeOrigin + performance.now() + 600_000).toBe(true);
    await change(failing, "state = 'done'");
  } finally {
    ahead.mockRestore();
  }
});

test('a worker that lives is left alone', async () => {
  const id = await push();
  await until(id, 'done');
  await change(id, "state = 'running', worker = 'another', beat = now(), tries = 1");
  await server.app.get(Jobs).look();
  await server.app.get(Jobs).run(id);
  expect(await row(id)).toMatchObject({ state: 'running', worker: 'another' });
  await change(id, "state = 'done'");
});

test('a service that does not answer is tried again, at last it has failed, and a person may try again', async () => {
  service = (_, r) => r.destroy();
  const id = await push();
  await until(id, 'waiting');
  for (let n = 0; n < 600; n++) {
    const { state } = await row(id);
    if (state === 'failed') break;
    // The queue may be at it already: a run beside it is turned away at once.
    if (state === 'running') await new Promise((r) => setTimeout(r, 50));
    await change(id, "next_at = now() - interval '1 second'");
    await server.app.get(Jobs).run(id);
  }
  const failed = await until(id, 'failed');
  expect(failed.report.problem).toContain('does not answer');
  expect(failed.finishedAt).not.toBeNull();
  service = (_, r) =>
    r.writeHead(201, { 'content-type': 'application/json' }).end(JSON.stringify({ id: 'q', link: 'http://x.example/l2', title: 'T', items: [] }));
  await world.owner.post(`/api/v1/pushes/${id}/again`).expect(200);
  expect((await until(id, 'done')).report).toMatchObject({ link: 'http://x.example/l2' });
});

test('work that is cut off again and again ends as failed, not for ever', async () => {
  const id = await push();
  await until(id, 'done');
  await change(id, "state = 'running', worker = 'killed', beat = now() - interval '1 minute', tries = 6");
  await server.app.get(Jobs).look();
  expect((await row(id)).state).toBe('failed');
});

test('a receipt stays when its service is disconnected, and says so when it is to be tried again', async () => {
  const id = await push();
  await until(id, 'done');
  await world.owner.delete(`/api/v1/connections/${connection}`).expect(204);
  const list = (await world.owner.get(`/api/v1/sets/${set}/pushes`).expect(200)).body as { id: string; service: string; report: object }[];
  expect(list.find((p) => p.id === id)).toMatchObject({ service: 'lms', report: { link: 'http://x.example/l' } });
  await change(id, "state = 'failed'");
  const r = await world.owner.post(`/api/v1/pushes/${id}/again`).expect(422);
  expect(r.body).toMatchObject({ code: 'connection-ended' });
});

test('an address that a browser may not be sent to is none', async () => {
  expect(['https://x.example/a', 'http://127.0.0.1:1/', 'javascript:alert(1)', 'data:text/html,x', '/f/1', ''].map(webAddress)).toEqual([
    'https://x.example/a',
    'http://127.0.0.1:1/',
    '',
    '',
    '',
    '',
  ]);
});
