/** Requests kept with a set, their replies, and wishes of a workspace, through the API. */
import { composeRequest, emptyDocument, firstWish, newId } from '@zakuska/core';
import type { Agent } from 'supertest';
import { hashPassword } from '../accounts/passwords.js';
import { Account, Membership, Workspace } from '../accounts/entities.js';
import { Documents } from '../sets/documents.js';
import { signIn, startServer, type TestServer } from '../testing/server.js';

let server: TestServer;
let editor: Agent;
let reader: Agent;
let workspace: string;
let set: string;

beforeAll(async () => {
  server = await startServer('zakuska_test_requests');
  const em = server.orm.em.fork();
  const ours = em.create(Workspace, { id: newId(), name: 'Ours' });
  for (const [email, role] of [
    ['e@x.example', 'editor'],
    ['r@x.example', 'reader'],
  ] as const) {
    const account = em.create(Account, { id: newId(), email, name: email.charAt(0).toUpperCase(), passwordHash: await hashPassword('pass word') });
    em.create(Membership, { account, workspace: ours, role });
  }
  await em.flush();
  workspace = ours.id;
  set = await server.app.get(Documents).create(em, { workspace, document: emptyDocument('T') });
  editor = server.agent();
  reader = server.agent();
  await signIn(editor, 'e@x.example', 'pass word');
  await signIn(reader, 'r@x.example', 'pass word');
});
afterAll(() => server.stop());

interface Kept {
  id: string;
  text: string;
  reply?: string;
  by: string;
  wish?: { topic: string; source?: unknown };
}
const list = async (who: Agent): Promise<Kept[]> => (await who.get(`/api/v1/sets/${set}/requests`)).body as Kept[];

test('a request is kept with what was wished for and with its reply, the last first', async () => {
  const wish = { ...firstWish(), topic: 'Salt' };
  const { text } = composeRequest(wish);
  const first = await editor.post(`/api/v1/sets/${set}/requests`).send({ purpose: 'draft', text, wish });
  expect(first.status).toBe(201);
  const second = await editor.post(`/api/v1/sets/${set}/requests`).send({ purpose: 'rework', text: 'x', aim: 'language', detail: 'es', items: ['a', 'b'] });
  expect(second.status).toBe(201);
  const { id } = first.body as Kept;
  expect((await editor.put(`/api/v1/sets/${set}/requests/${id}/reply`).send({ text: '1. Is salt a mineral?\nAnswer: true\u0000' })).status).toBe(204);
  const [last, before] = await list(reader);
  expect(last).toMatchObject({ purpose: 'rework', aim: 'language', detail: 'es', items: ['a', 'b'], by: 'E' });
  expect(before).toMatchObject({ text, wish: { topic: 'Salt' }, by: 'E' });
  // what no database holds is shown as unknown, and nothing else changes
  expect(before?.reply).toBe('1. Is salt a mineral?\nAnswer: true\ufffd');
  expect((await editor.delete(`/api/v1/sets/${set}/requests/${id}`)).status).toBe(204);
  expect((await list(editor)).length).toBe(1);
});

test('readers look and change nothing; what is not there is said', async () => {
  expect((await reader.post(`/api/v1/sets/${set}/requests`).send({ purpose: 'draft', text: 'x' })).status).toBe(403);
  expect((await reader.put(`/api/v1/workspaces/${workspace}/wishes`).send({ name: 'W', wish: firstWish() })).status).toBe(403);
  for (const id of [newId(), 'none']) expect((await editor.put(`/api/v1/sets/${set}/requests/${id}/reply`).send({ text: 'x' })).status).toBe(404);
  expect((await editor.post(`/api/v1/sets/${set}/requests`).send({ purpose: 'else', text: 'x' })).status).toBe(400);
  const wrong = await editor.post(`/api/v1/sets/${set}/requests`).send({ purpose: 'draft', text: 'x', wish: { counts: { essay: -1 } } });
  expect([wrong.status, (wrong.body as { detail: string }).detail]).toEqual([422, expect.stringContaining('counts.essay')]);
});

test('wishes are kept by name, without their source', async () => {
  const wish = { ...firstWish('es'), topic: 'Salt', source: { title: 'Notes', text: 'Salt slows yeast.' } };
  await editor.put(`/api/v1/workspaces/${workspace}/wishes`).send({ name: 'Short test', wish });
  await editor.put(`/api/v1/workspaces/${workspace}/wishes`).send({ name: 'Short test', wish: { ...wish, level: 'year 8' } });
  const { body } = await reader.get(`/api/v1/workspaces/${workspace}/wishes`);
  expect(body).toEqual([{ id: expect.any(String), name: 'Short test', wish: expect.objectContaining({ language: 'es', level: 'year 8' }) }]);
  expect((body as { wish: object }[])[0]?.wish).not.toHaveProperty('source');
  expect((await editor.delete(`/api/v1/workspaces/${workspace}/wishes/${(body as { id: string }[])[0]?.id ?? ''}`)).status).toBe(204);
  expect(((await reader.get(`/api/v1/workspaces/${workspace}/wishes`)).body as unknown[]).length).toBe(0);
});
