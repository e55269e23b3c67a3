/** How a workspace stands, and the figures for whoever watches the server. */
import type { Item } from '@zakuska/core';
import { Push } from '../connections/entities.js';
import { startServer, type TestServer } from '../testing/server.js';
import { handIn, makeWorld, type World } from '../testing/world.js';
import { rightResponse } from '@zakuska/core';

const ITEMS: Item[] = [{ id: 'a', kind: 'true-false', stem: 'Rye is a grain.', points: 1, answer: true }];
const RIGHT = { a: rightResponse(ITEMS[0] as Item) };

let server: TestServer;
let world: World;
let other: World;
beforeAll(async () => {
  process.env['METRICS_TOKEN'] = 'a token of the tests';
  server = await startServer('zakuska_test_administration');
  world = await makeWorld(server, 'owner@saltmarsh.example');
  other = await makeWorld(server, 'other@saltmarsh.example');
});
afterAll(() => server.stop());
const run = (text: string, params: unknown[] = []): Promise<Record<string, unknown>[]> => server.orm.em.fork().getConnection().execute(text, params);

interface State {
  storage: Record<string, number>;
  jobs: { kind: string; id: string; of: string; to: string; state: string; problem?: string }[];
}
const look = async (w = world): Promise<State> => (await w.owner.get(`/api/v1/workspaces/${w.workspace}/state`).expect(200)).body as State;

test('what waits, hangs or has failed stands there, of this workspace alone; what failed is tried again', async () => {
  const { id: delivery, set, code } = await world.publish(ITEMS, 'score', { title: 'Rye' });
  const { id: attempt } = await handIn(server, code, 'Ada Brook', RIGHT);
  const em = server.orm.em.fork();
  em.create(Push, {
    id: '018f4e3a-0000-7000-8000-0000000000ab',
    set,
    service: 'lms',
    state: 'failed',
    aim: { title: 'T', settings: {}, takeOut: false },
    report: { problem: 'The service refused it.' },
  } as never);
  await em.flush();
  const mail = async (n: number, more: string): Promise<unknown> =>
    (
      await run(
        `insert into mail (id, name, address, subject, text, delivery_id${more ? ', next_at, problem' : ''})
      values (gen_random_uuid(), 'A', ?, 'S', 'T', ?${more}) returning id`,
        [`m${n}@saltmarsh.example`, delivery],
      )
    )[0]?.['id'];
  await mail(1, '');
  await mail(2, `, now() - interval '1 hour', null`);
  const failed = await mail(3, `, now(), 'No such mailbox'`);
  await run(`insert into lti_score (attempt_id, problem) values (?, 'The course is gone')`, [attempt]);

  const { jobs, storage } = await look();
  expect(jobs.map((j) => [j.kind, j.of, j.to, j.state, j.problem]).sort()).toEqual(
    [
      ['push', 'T', 'lms', 'failed', 'The service refused it.'],
      ['mail', 'Rye', 'm1@saltmarsh.example', 'waiting', undefined],
      ['mail', 'Rye', 'm2@saltmarsh.example', 'slow', undefined],
      ['mail', 'Rye', 'm3@saltmarsh.example', 'failed', 'No such mailbox'],
      ['score', 'Rye', 'Ada Brook', 'failed', 'The course is gone'],
    ].sort(),
  );
  expect(jobs.slice(0, 3).every((j) => j.state === 'failed')).toBe(true);
  expect(storage).toMatchObject({ sets: 1, binned: 0, items: 1, quizzes: 1, answers: 1 });
  expect(storage['bytes']).toBeGreaterThan(100);
  expect(await look(other)).toMatchObject({ jobs: [], storage: { sets: 0, items: 0, answers: 0 } });

  const again = (w: World, body: object, status: number): Promise<unknown> =>
    w.owner.post(`/api/v1/workspaces/${w.workspace}/state/again`).send(body).expect(status) as unknown as Promise<unknown>;
  await again(other, { kind: 'mail', id: failed }, 404);
  await again(world, { kind: 'mail', id: failed }, 204);
  await again(world, { kind: 'score', id: attempt }, 204);
  await again(world, { kind: 'score', id: attempt }, 404);
  expect((await look()).jobs.filter((j) => j.state === 'failed').map((j) => j.kind)).toEqual(['push']);
});

describe('figures', () => {
  test('are for who has the token, and name routes without ids', async () => {
    const metrics = (token?: string) => {
      const r = server.agent().get('/metrics');
      return token === undefined ? r : r.set('authorization', `Bearer ${token}`);
    };
    await metrics().expect(401);
    await metrics('a token of the testz').expect(401);
    await look();
    const { text, headers } = await metrics('a token of the tests').expect(200);
    // the exposition format of Prometheus, version 0.0.4, from memory
    expect(headers['content-type']).toMatch(/^text\/plain;.*version=0\.0\.4/);
    for (const line of text.split('\n').filter((l) => l && !l.startsWith('#')))
      expect(line).toMatch(/^[a-z_][a-z0-9_]*(?:\{[^{}]*\})? (?:[-+]?[\d.]+(?:e[-+]?\d+)?|NaN|\+Inf)$/i);
    expect(text).toMatch(/zakuska_jobs\{kind="push",state="failed"\} 1/);
    expect(text).toMatch(/http_request_duration_seconds_count\{method="GET",route="\/api\/v1\/workspaces\/:workspace\/state",status="200"\} \d/);
    expect(text).toContain('nodejs_eventloop_lag_seconds');
    expect(text).not.toContain(world.workspace);
  });
});
