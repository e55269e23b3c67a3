/** Pushes to a stand-in that runs in the process of the test. */
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { type Item, newId } from '@zakuska/core';
import type { Express } from 'express';
import type { PushReport } from '../connections/entities.js';
import type { TestServer } from './server.js';
import type { World } from './world.js';

/** A push as the interface shows it. */
export interface SeenPush {
  id: string;
  state: string;
  report: PushReport & { rehearsal?: { ok: boolean }; unrehearsed?: string };
}

/** A stand-in at an address of its own. @param appAt makes it for that address */
export async function outside(appAt: (url: string) => Express | Promise<Express>): Promise<{ url: string; close(): void }> {
  const http = createServer();
  await new Promise<void>((done) => http.listen(0, '127.0.0.1', done));
  const url = `http://127.0.0.1:${(http.address() as AddressInfo).port}`;
  http.on('request', await appAt(url));
  return {
    url,
    close() {
      http.closeAllConnections();
      http.close();
    },
  };
}

let flours = 0;
/** Choices whose second option is right, for two points each; no two are the same. */
export const choices = (count: number): Item[] =>
  Array.from({ length: count }, () => {
    const id = newId();
    return {
      id,
      kind: 'multiple-choice',
      stem: `Which flour is number ${++flours}?`,
      points: 2,
      options: ['rye', 'oat', 'spelt'].map((content, i) => ({ id: `${id}${i}`, content, credit: i === 1 ? 1 : 0 })),
    };
  });

/** Begins a push. @returns its id */
export async function beginPush(world: World, set: string, connectionId: string | undefined, more: object = {}, id = newId()): Promise<string> {
  await world.owner
    .post(`/api/v1/sets/${set}/pushes`)
    .send({ id, connectionId, ...more })
    .expect(201);
  return id;
}

/** The push once it is in one of the states; fails after half a minute. */
export async function pushUntil(world: World, id: string, ...states: string[]): Promise<SeenPush> {
  for (let tries = 0; tries < 600; tries++) {
    const p = (await world.owner.get(`/api/v1/pushes/${id}`).expect(200)).body as SeenPush;
    if (states.includes(p.state)) return p;
    await new Promise((r) => setTimeout(r, 50));
  }
  throw new Error(`never ${states.join(' or ')}`);
}

/** A push whose worker dies as soon as it knows the container: what arrived is not noted, and the next look takes it up. @returns what became of it */
export async function pushWithADeath(server: TestServer, world: World, set: string, connection: string): Promise<SeenPush> {
  const id = await beginPush(world, set, connection);
  await pushUntil(world, id, 'done');
  const run = server.orm.em.getConnection();
  await run.execute('delete from placed_piece where push = ?', [id]);
  await run.execute(
    `update push set state = 'running', worker = 'of one that died', beat = now() - interval '1 hour', finished_at = null, done = 0 where id = ?`,
    [id],
  );
  return pushUntil(world, id, 'done', 'failed');
}
