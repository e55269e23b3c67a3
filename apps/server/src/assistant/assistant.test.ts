/** Asking an assistant: the stand-in over HTTP, with trouble on demand; allowances, stops, the log. */
import { measure, newId } from '@zakuska/core';
import type { Agent } from 'supertest';
import { assistantApp, type Control, SECRET } from '../../../standins/src/assistant/app.js';
import { outside } from '../testing/pushes.js';
import { Asking } from './asking.js';
import { Ask } from './entities.js';
import { signIn, startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';

const REQUEST = 'Write items for a quiz on: Salt in bread\n\nWhat to write:\n- 2 true or false items\n';

let server: TestServer;
let world: World;
let editor: Agent;
let editorId: string;
let set: string;
let standin: { url: string; close(): void };
beforeAll(async () => {
  standin = await outside(() => assistantApp());
  process.env['ASSISTANT_HOSTS'] = '127.0.0.1';
  process.env['ASSISTANT_WITHIN_MS'] = '1500';
  server = await startServer('zakuska_test_assistant');
  world = await makeWorld(server, 'assistant@x.test');
  editorId = await world.join('editor@x.test', 'editor');
  editor = server.agent();
  await signIn(editor, 'editor@x.test', 'pass word');
  set = await world.makeSet([{ id: 'a', kind: 'true-false', stem: 'Salt slows yeast.', points: 1, answer: true }]);
});
afterAll(async () => {
  await server.stop();
  standin.close();
});

const SETUP = {
  name: 'Galley',
  interface: 'chat',
  model: 'galley-small',
  secret: SECRET,
  priceIn: 1,
  priceOut: 2,
  currency: 'EUR',
  most: 1000,
  who: 'editor',
  unit: 'tokens',
  amount: 100_000,
};
const setUp = (more: object = {}, status = 204) =>
  world.owner
    .put(`/api/v1/workspaces/${world.workspace}/assistant`)
    .send({ ...SETUP, address: `${standin.url}/v1/chat`, ...more })
    .expect(status);
const control = async (c: Control): Promise<void> => {
  await fetch(`${standin.url}/control`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ speed: 0, ...c }) });
};
interface Asked {
  id: string;
  state: string;
  said: string;
  reply: string;
  tries: number;
  tokensIn: number;
  tokensOut: number;
  estimated: boolean;
  cost: number;
  person: string;
}
const ask = async (who: Agent = editor, more: object = {}) => {
  const id = newId();
  const r = await who.post(`/api/v1/sets/${set}/asks`).send({ id, purpose: 'draft', text: REQUEST, ...more });
  return { id, status: r.status, body: r.body as Asked & { code?: string; detail?: string } };
};
const over = async (id: string): Promise<Asked> => {
  for (let i = 0; i < 400; i++) {
    const a = (await editor.get(`/api/v1/asks/${id}`).expect(200)).body as Asked;
    if (a.state !== 'running') return a;
    await new Promise((r) => setTimeout(r, 50));
  }
  throw new Error('it never ended');
};
const mine = async (who: Agent = editor) =>
  (await who.get(`/api/v1/workspaces/${world.workspace}/assistant`).expect(200)).body as {
    there: boolean;
    mine: { may: boolean; used: number; left: number };
    setUp?: object;
  };
beforeEach(async () => {
  await control({});
  await setUp();
});

test('where none is set up, that is said and nothing is sent', async () => {
  await world.owner.delete(`/api/v1/workspaces/${world.workspace}/assistant`).expect(204);
  expect((await mine()).there).toBe(false);
  expect((await ask()).body).toMatchObject({ code: 'no-assistant' });
});

test('asked, streamed, counted, kept with its request; the same id is asked once', async () => {
  const kept = (await editor.post(`/api/v1/sets/${set}/requests`).send({ purpose: 'draft', text: REQUEST }).expect(201)).body as { id: string };
  const before = (await mine()).mine.used;
  const first = await ask(editor, { request: kept.id });
  expect([first.status, first.body.state]).toEqual([201, 'running']);
  const done = await over(first.id);
  expect(done).toMatchObject({ state: 'done', estimated: false, tries: 1, said: '' });
  expect(done.reply).toMatch(/Answer: (?:true|false)/);
  expect(done.cost).toBeCloseTo((done.tokensIn * 1 + done.tokensOut * 2) / 1e6, 5);
  const requests = (await editor.get(`/api/v1/sets/${set}/requests`)).body as { id: string; reply?: string }[];
  expect(requests.find((r) => r.id === kept.id)?.reply).toBe(done.reply);
  const again = await editor.post(`/api/v1/sets/${set}/asks`).send({ id: first.id, purpose: 'draft', text: REQUEST }).expect(201);
  expect((again.body as Asked).reply).toBe(done.reply);
  expect((await mine()).mine.used - before).toBe(done.tokensIn + done.tokensOut);
});

test('the events give the reply piece by piece; put together they are the reply', async () => {
  await control({ speed: 15 });
  const { id } = await ask();
  const r = await editor.get(`/api/v1/asks/${id}/events`).expect(200);
  const events = r.text
    .split('\n')
    .filter((l) => l.startsWith('data: '))
    .map((l) => JSON.parse(l.slice(6)) as { at: number; reply: string; state: string });
  let text = '';
  for (const e of events) text = text.slice(0, e.at) + e.reply;
  expect(text).toBe((await over(id)).reply);
  expect(events.length).toBeGreaterThan(2);
  expect(events.at(-1)?.state).toBe('done');
});

test('who has not asked does not stop it, owners may', async () => {
  await control({ speed: 40 });
  const { id } = await ask();
  await world.join('other@x.test', 'editor');
  const other = server.agent();
  await signIn(other, 'other@x.test', 'pass word');
  await other.post(`/api/v1/asks/${id}/stop`).expect(403);
  await world.owner.post(`/api/v1/asks/${id}/stop`).expect(204);
  expect((await over(id)).state).toBe('stopped');
});

test('stopped in the middle: what came is kept, and counted as far as it came', async () => {
  await control({ speed: 40 });
  const { id } = await ask();
  await new Promise((r) => setTimeout(r, 500));
  await editor.post(`/api/v1/asks/${id}/stop`).expect(204);
  const a = await over(id);
  expect(a).toMatchObject({ state: 'stopped', said: 'Stopped; what had come is kept.', estimated: true });
  expect(a.reply.length).toBeGreaterThan(0);
  expect(a.tokensOut).toBe(measure(a.reply).tokens);
});

test.each([
  ['trouble twice, then well', [{ kind: 'error', times: 2 }], 'done', 3, /^It answered at try 3\.$/],
  ['too much to do, then well', [{ kind: 'limit' }], 'done', 2, /try 2/],
  ['trouble for good', [{ kind: 'error', times: 9 }], 'broken', 3, /^The assistant is in trouble \(500\)\.$/],
  ['no answer', [{ kind: 'silence', times: 9 }], 'broken', 3, /did not answer in time/],
  ['an error page', [{ kind: 'page' }], 'broken', 1, /answered with a page and no reply/],
  ['a stream without words', [{ kind: 'empty', times: 9 }], 'broken', 3, /sent nothing/],
  ['half a stream', [{ kind: 'half' }], 'broken', 1, /broke in the middle.+ What had come is kept\.$/],
  ['no counts of tokens', [{ kind: 'uncounted' }], 'done', 1, /^$/],
  ['no word that it is whole', [{ kind: 'endless' }], 'broken', 1, /without saying that it is whole/],
] as const)('%s', async (_, trouble, state, tries, said) => {
  await control({ speed: 4, trouble: trouble as unknown as NonNullable<Control['trouble']> });
  const before = (await mine()).mine.used;
  const a = await over((await ask()).id);
  expect(a).toMatchObject({ state, tries });
  expect(a.said).toMatch(said);
  // what never came costs nothing
  if (!a.reply) expect([a.tokensIn, a.tokensOut, a.cost]).toEqual([0, 0, 0]);
  else expect(a.tokensOut).toBeGreaterThan(0);
  expect((await mine()).mine.used - before).toBe(a.tokensIn + a.tokensOut);
});

test('a reply that has its most tokens is cut, and that is said', async () => {
  await setUp({ most: 50 });
  const a = await over((await ask(editor, { text: REQUEST.replace('2 true', '9 true') })).id);
  expect(a).toMatchObject({ state: 'cut', said: expect.stringContaining('as many tokens as it may have') });
});

test('a secret that is refused is said once; it lies encrypted, and does not follow to another address', async () => {
  await setUp({ secret: 'wrong' });
  expect((await over((await ask()).id)).said).toMatch(/refused the secret/);
  const [row] = await server.orm.em.fork().getConnection().execute<{ sealed: string }[]>('select sealed from assistant');
  expect(row?.sealed).not.toContain('wrong');
  expect(JSON.stringify(await mine(world.owner))).not.toContain('wrong');
  const { secret: _, ...rest } = SETUP;
  const moved = await world.owner
    .put(`/api/v1/workspaces/${world.workspace}/assistant`)
    .send({ ...rest, address: 'https://elsewhere.example/v1' })
    .expect(422);
  expect((moved.body as { code: string }).code).toBe('secret-again');
  await world.owner
    .put(`/api/v1/workspaces/${world.workspace}/assistant`)
    .send({ ...rest, address: `${standin.url}/v1/chat`, name: 'Other' })
    .expect(204);
});

test('what a server was working on when it ended is over; what had come is kept, and counted', async () => {
  const { id } = await ask();
  await over(id);
  const em = server.orm.em.fork();
  // as it stands where nobody is left to work on it
  await em.nativeUpdate(Ask, { id }, { state: 'running', reply: 'Half of it', tokensOut: 1000, beat: new Date(Date.now() - 10 * 60_000), finishedAt: null });
  const { id: fresh } = await ask();
  await server.app.get(Asking).endLost(server.orm.em.fork());
  expect(await over(id)).toMatchObject({ state: 'broken', reply: 'Half of it', tokensOut: 3, said: expect.stringContaining('what had come is kept') });
  expect((await over(fresh)).state).toBe('done');
});

describe('allowance', () => {
  test('what would pass it is refused before it is sent, with what is left', async () => {
    await setUp({ amount: 100, persons: {} });
    const heard = async () => ((await (await fetch(`${standin.url}/heard`)).json()) as unknown[]).length;
    const before = await heard();
    const r = await ask();
    expect([r.status, r.body.code]).toEqual([403, 'allowance-used']);
    expect(r.body.detail).toMatch(/may need [\d,]+ tokens, and you have \d+ tokens left of 100 tokens in this month\. Nothing was sent\./);
    expect(await heard()).toBe(before);
  });
  test('of many at once, only so many go out as the allowance holds', async () => {
    const used = (await mine()).mine.used;
    const one = measure(REQUEST).tokens + 1000;
    await setUp({ amount: used + 3 * one + 10 });
    await control({ speed: 5 });
    const all = await Promise.all(Array.from({ length: 8 }, () => ask()));
    expect(all.filter((r) => r.status === 201)).toHaveLength(3);
    for (const r of all.filter((x) => x.status === 201)) await over(r.id);
    // what they did not need is free again
    expect((await mine()).mine.left).toBeGreaterThan(one);
  });
  test('a person may have another amount, or none; readers may not ask where editors may', async () => {
    await setUp({ persons: { [editorId]: 0 } });
    expect((await mine()).mine.may).toBe(false);
    expect((await ask()).body.code).toBe('may-not-ask');
    expect((await ask(world.owner)).status).toBe(201);
    await world.join('reader@x.test', 'reader');
    const reader = server.agent();
    await signIn(reader, 'reader@x.test', 'pass word');
    expect((await ask(reader)).body.code).toBe('may-not-ask');
    await setUp({ who: 'owner' });
    expect((await ask()).body.code).toBe('may-not-ask');
  });
});

test('a request that names a learner in full is not sent', async () => {
  const { code } = await world.publish([{ id: 'q', kind: 'true-false', stem: 'Yes?', points: 1, answer: true }], 'score');
  await server.agent().post(`/api/v1/take/${code}/attempts`).send({ id: newId(), token: 'a token that only I know', name: 'Ann Lee' }).expect(201);
  const r = await ask(editor, { text: `${REQUEST}\nAnn Lee found these hard.` });
  expect([r.status, r.body.code, r.body.detail]).toEqual([422, 'names-a-learner', expect.stringContaining('Ann Lee')]);
  expect((await ask(editor, { text: `${REQUEST}\nAnn Leeward is a place.` })).status).toBe(201);
});

test('the log: to the letter what was sent; one’s own for everybody, all for owners; as CSV', async () => {
  const { id } = await ask(world.owner, { text: `${REQUEST}=1+1` });
  await over(id);
  const at = `/api/v1/workspaces/${world.workspace}/asks`;
  const all = (await world.owner.get(at).expect(200)).body as Asked[];
  const own = (await editor.get(at).expect(200)).body as Asked[];
  expect(all.length).toBeGreaterThan(own.length);
  expect(new Set(own.map((a) => a.person))).toEqual(new Set(['editor@x.test']));
  expect((await world.owner.get(`${at}/${id}`).expect(200)).body).toMatchObject({ text: `${REQUEST}=1+1`, reply: expect.stringContaining('Answer') });
  await editor.get(`${at}/${id}`).expect(404);
  await editor.get(`${at}/none`).expect(404);
  expect((await world.owner.get(`${at}?month=2020-01`).expect(200)).body).toEqual([]);
  await world.owner.get(`${at}?month=2020-13`).expect(400);
  const csv = (await world.owner.get(`${at}.csv`).expect(200)).text.trim().split('\r\n');
  expect(csv[0]).toBe('when,who,set,what for,model,state,tokens in,tokens out,tokens,cost,currency');
  expect(csv).toHaveLength(all.length + 1);
});

test('only owners set it up; addresses of a private network only where that was allowed', async () => {
  await editor
    .put(`/api/v1/workspaces/${world.workspace}/assistant`)
    .send({ ...SETUP, address: 'https://a.example/' })
    .expect(403);
  expect((await setUp({ address: 'http://10.0.0.1/v1' }, 422)).body).toMatchObject({ code: 'private-address' });
  expect((await setUp({ address: '' }, 422)).body).toMatchObject({ code: 'no-address' });
  await setUp({ address: 'ftp://a.example' }, 400);
  await setUp({ currency: 'euros' }, 400);
  expect((await mine(world.owner)).setUp).toMatchObject({ model: 'galley-small', hasSecret: true });
  expect((await mine()).setUp).toBeUndefined();
});
