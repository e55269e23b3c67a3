/** History with named points, the checks of a workspace and the address for looking things up, through the API. */
import { documentBefore, newId, type Operation, type SetDocument, type Step } from '@zakuska/core';
import type { Agent } from 'supertest';
import { hashPassword } from '../accounts/passwords.js';
import { Account, Membership, Workspace } from '../accounts/entities.js';
import { signIn, startServer, type TestServer } from '../testing/server.js';

let server: TestServer;
let agent: Agent;
let workspace: string;

beforeAll(async () => {
  server = await startServer('zakuska_test_history');
  const em = server.orm.em.fork();
  const ours = em.create(Workspace, { id: newId(), name: 'Ours' });
  const account = em.create(Account, { id: newId(), email: 'e@x.example', name: 'Edda', passwordHash: await hashPassword('pass word') });
  em.create(Membership, { account, workspace: ours, role: 'editor' });
  await em.flush();
  workspace = ours.id;
  agent = server.agent();
  await signIn(agent, 'e@x.example', 'pass word');
});
afterAll(() => server.stop());

const fresh = async (): Promise<string> =>
  ((await agent.post(`/api/v1/workspaces/${workspace}/sets`).send({ title: 'Rye' }).expect(201)).body as { id: string }).id;
const send = (set: string, base: number, operations: Operation[]): Promise<unknown> =>
  agent
    .post(`/api/v1/sets/${set}/operations`)
    .send({ base, operations: operations.map((operation) => ({ id: newId(), operation })) })
    .expect(200);
const truth = (id: string): Operation => ({ type: 'insert', at: 0, items: [{ id, kind: 'true-false', stem: 'Rye is a grain.', points: 1, answer: true }] });

test('the history says who did what, pages backwards, and leads back to every state', async () => {
  const set = await fresh();
  const item = newId();
  await send(set, 0, [truth(item), ...Array.from({ length: 250 }, (_, i): Operation => ({ type: 'change', id: item, set: { points: i + 2 } }))]);
  const first = (await agent.get(`/api/v1/sets/${set}/history`).expect(200)).body as (Step & { by: string })[];
  expect(first).toHaveLength(200);
  expect(first[0]).toMatchObject({ version: 251, by: 'Edda', operation: { type: 'change' } });
  const rest = (await agent.get(`/api/v1/sets/${set}/history?before=${first.at(-1)?.version ?? 0}`).expect(200)).body as Step[];
  expect(rest).toHaveLength(51);
  const { document } = (await agent.get(`/api/v1/sets/${set}`).expect(200)).body as { document: SetDocument };
  expect(documentBefore(document, first.slice(0, 1)).set.items[0]).toMatchObject({ points: 250 });
  expect(documentBefore(document, [...first, ...rest]).set.items).toEqual([]);
});

test('points are named, listed and removed; one of a version that is not there yet is refused', async () => {
  const set = await fresh();
  await send(set, 0, [truth(newId())]);
  const made = (await agent.post(`/api/v1/sets/${set}/points`).send({ name: 'Before the holidays', version: 1 }).expect(201)).body as { id: string };
  await agent.post(`/api/v1/sets/${set}/points`).send({ name: 'Later', version: 2 }).expect(409);
  expect((await agent.get(`/api/v1/sets/${set}/points`).expect(200)).body).toMatchObject([{ name: 'Before the holidays', version: 1, by: 'Edda' }]);
  const other = await fresh();
  await agent.delete(`/api/v1/sets/${other}/points/${made.id}`).expect(404);
  await agent.delete(`/api/v1/sets/${set}/points/${made.id}`).expect(204);
  expect((await agent.get(`/api/v1/sets/${set}/points`).expect(200)).body).toEqual([]);
});

test('thresholds and rules that are off are kept per workspace; what no rule knows is refused or dropped', async () => {
  const at = `/api/v1/workspaces/${workspace}/checks`;
  expect((await agent.get(at).expect(200)).body).toEqual({ limits: {}, off: [] });
  await agent
    .put(at)
    .send({ limits: { lengthRatio: 2, chance: 0.01 }, off: ['key-longest', 'no-such-rule'] })
    .expect(200);
  // what is as usual is not kept, so that a later change of the usual reaches it
  expect((await agent.get(at).expect(200)).body).toEqual({ limits: { lengthRatio: 2 }, off: ['key-longest'] });
  for (const limits of [{ lengthRatio: 99 }, { lengthRatio: 'x' }, { speed: 1 }]) await agent.put(at).send({ limits, off: [] }).expect(400);
});

test('the address for looking things up is kept with the person, and has a place for the words', async () => {
  await agent.put('/api/v1/session/search').send({ address: ' https://search.example/?q={query} ' }).expect(200);
  expect((await agent.get('/api/v1/session').expect(200)).body).toMatchObject({ searchAddress: 'https://search.example/?q={query}' });
  for (const address of ['javascript:alert({query})', 'https://search.example/', 'ftp://x/{query}', 'https://a b/{query}'])
    await agent.put('/api/v1/session/search').send({ address }).expect(400);
  await agent.put('/api/v1/session/search').send({ address: '' }).expect(200);
});
