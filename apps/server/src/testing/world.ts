/** A workspace with an owner and ways to publish items, for tests that need little of a world. */
import { type Item, newId, type ShownAfter, type MemberRole } from '@zakuska/core';
import type { Agent } from 'supertest';
import { hashPassword } from '../accounts/passwords.js';
import { Account, Membership, Workspace } from '../accounts/entities.js';
import { signIn, type TestServer } from './server.js';

export interface World {
  owner: Agent;
  workspace: string;
  /** A new set with items. */
  makeSet(items: Item[]): Promise<string>;
  /** A new set, published. */
  publish(items: Item[], shows: ShownAfter, more?: object): Promise<{ id: string; code: string; set: string }>;
  /** Another account of the workspace, an owner if nothing else is said, with the password `pass word`; gives its id. */
  join(email: string, role?: MemberRole): Promise<string>;
}

export async function makeWorld(server: TestServer, email: string): Promise<World> {
  const em = server.orm.em.fork();
  const workspace = em.create(Workspace, { id: newId(), name: `W of ${email}` });
  const join = async (address: string, role: MemberRole = 'owner'): Promise<string> => {
    const fork = server.orm.em.fork();
    const account = fork.create(Account, { id: newId(), email: address, name: address, passwordHash: await hashPassword('pass word') });
    fork.create(Membership, { account, workspace: fork.getReference(Workspace, workspace.id), role });
    await fork.flush();
    return account.id;
  };
  await em.flush();
  await join(email);
  const owner = server.agent();
  await signIn(owner, email, 'pass word');
  const makeSet = async (items: Item[]): Promise<string> => {
    const { body } = await owner.post(`/api/v1/workspaces/${workspace.id}/sets`).send({ title: 'T' }).expect(201);
    const { id } = body as { id: string };
    await owner
      .post(`/api/v1/sets/${id}/operations`)
      .send({ base: 0, operations: [{ id: newId(), operation: { type: 'insert', at: 0, items } }] })
      .expect(200);
    return id;
  };
  return {
    owner,
    workspace: workspace.id,
    join,
    makeSet,
    async publish(items, shows, more = {}) {
      const set = await makeSet(items);
      const { body } = await owner
        .post(`/api/v1/sets/${set}/deliveries`)
        .send({ shows, ...more })
        .expect(201);
      return { ...(body as { id: string; code: string }), set };
    },
  };
}

/**
 * Somebody begins, answers and hands in.
 * @param code of the quiz, or their own
 * @returns the attempt, and what their browser looks at it with
 */
export async function handIn(server: TestServer, code: string, name: string, responses: object): Promise<{ id: string; token: string }> {
  const token = `a token of ${newId()}`;
  const { body } = await server.agent().post(`/api/v1/take/${code}/attempts`).send({ id: newId(), token, name }).expect(201);
  const { id } = body as { id: string };
  await server.agent().post(`/api/v1/take/attempts/${id}/submit`).set('x-attempt-token', token).send({ responses }).expect(200);
  return { id, token };
}
