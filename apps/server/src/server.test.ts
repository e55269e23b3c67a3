import { readFileSync } from 'node:fs';
import { newId, type Item, type Operation, rightResponse, type SetDocument, usualRules, type MemberRole, mayAs, memberRoles } from '@zakuska/core';
import type { Agent } from 'supertest';
import { hashPassword } from './accounts/passwords.js';
import { Account, Membership, Workspace } from './accounts/entities.js';
import { openApi } from './app.js';
import { Ask } from './assistant/entities.js';
import { Changes } from './platform/changes.js';
import { Connection, Placement, Push } from './connections/entities.js';
import { ClassList } from './classes/entities.js';
import { Attempt, Delivery } from './deliveries/entities.js';
import { Documents } from './sets/documents.js';
import { LtiLaunch, LtiPlatform } from './lti/entities.js';
import { SetRecord } from './sets/entities.js';
import { Housekeeping } from './housekeeping.js';
import { Problem } from './platform/problem.js';
import { Source } from './sources/entities.js';
import { signIn, startServer, type TestServer } from './testing/server.js';

let server: TestServer;
let owner: Agent;
let ids: Record<string, string>;
const people: Record<string, Agent> = {};

const item = (id: string, more: Partial<Item> = {}): Item => ({ id, kind: 'true-false', stem: `S ${id}`, points: 1, answer: true, ...more }) as Item;

beforeAll(async () => {
  server = await startServer('zakuska_test_server');
  const em = server.orm.em.fork();
  const ours = em.create(Workspace, { id: newId(), name: 'Ours' });
  const theirs = em.create(Workspace, { id: newId(), name: 'Theirs' });
  const passwordHash = await hashPassword('pass word');
  const member = (name: string, workspace: Workspace, role: MemberRole): void => {
    const account = em.create(Account, { id: newId(), email: `${name}@x.example`, name, passwordHash });
    em.create(Membership, { account, workspace, role });
  };
  for (const role of memberRoles) member(role, ours, role);
  member('stranger', theirs, 'owner');
  const items = [item(newId()), item(newId())];
  await em.flush();
  const documents = server.app.get(Documents);
  const document = { set: { title: 'T', items }, reviews: {} };
  const set = em.getReference(SetRecord, await documents.create(em, { workspace: ours.id, document }));
  const binned = await documents.create(em, { workspace: ours.id, document: { ...document, set: { title: 'B', items: [] } } });
  await em.nativeUpdate(SetRecord, { id: binned }, { deletedAt: new Date() });
  const delivery = em.create(Delivery, { id: newId(), set, code: 'CODE11', title: 'T', snapshot: { title: 'T', items }, rules: usualRules() });
  const connection = em.create(Connection, { id: newId(), workspace: ours, service: 'lms', accountName: 'A', sealed: 'x' });
  const push = em.create(Push, { id: newId(), set, connection, service: 'lms', state: 'done', aim: { title: 'T', settings: {}, takeOut: false } });
  const placement = em.create(Placement, { id: newId(), set, connection, service: 'lms', container: 'c', title: 'T', link: 'l' });
  const addresses = { authUrl: 'https://p.example/a', tokenUrl: 'https://p.example/t', jwksUrl: 'https://p.example/k' };
  const platform = em.create(LtiPlatform, {
    id: newId(),
    workspace: ours,
    name: 'P',
    issuer: 'https://p.example',
    clientId: 'c',
    deployments: ['d'],
    ...addresses,
  });
  const launch = em.create(LtiLaunch, { id: newId(), platform, deployment: 'd', person: 'p', name: 'P', teaches: true, title: '', course: 'C' });
  const source = em.create(Source, { id: newId(), set, name: 'S', mediaType: 'text/plain', text: 'Salt is salt.' });
  const ask = em.create(Ask, {
    id: newId(),
    workspace: ours,
    set,
    title: 'T',
    person: 'P',
    purpose: 'draft',
    model: 'm',
    text: 'x',
    state: 'done',
    tokensIn: 0,
    tokensOut: 0,
    priceIn: 0,
    priceOut: 0,
    currency: 'EUR',
  });
  const list = em.create(ClassList, { id: newId(), workspace: ours, name: 'C' });
  await em.flush();
  const folder = newId();
  await em
    .getConnection()
    .execute('insert into folder (id, workspace_id, name, trail, names) values (?, ?, ?, array[?::uuid], array[?])', [folder, ours.id, 'F', folder, 'F']);
  ids = {
    folder,
    group: newId(),
    member: newId(),
    invitation: 'x',
    session: 'x',
    token: 'x',
    workspace: ours.id,
    binned,
    source: source.id,
    mapping: newId(),
    template: newId(),
    set: set.id,
    delivery: delivery.id,
    connection: connection.id,
    push: push.id,
    placement: placement.id,
    platform: platform.id,
    launch: launch.id,
    ask: ask.id,
    class: list.id,
  };
  for (const name of [...memberRoles, 'stranger']) {
    const agent = server.agent();
    await signIn(agent, `${name}@x.example`, 'pass word');
    people[name] = agent;
  }
  people['nobody'] = server.agent();
  owner = people['owner'] as Agent;
});
afterAll(() => server.stop());

describe('access, route by route, from the OpenAPI document', () => {
  const needed = ['public', 'session', ...memberRoles];
  const routes = (): { method: string; path: string; access: string }[] =>
    Object.entries(openApi(server.app).paths).flatMap(([path, methods]) =>
      Object.entries(methods as Record<string, { 'x-access'?: string }>).map(([method, o]) => ({ method, path, access: o['x-access'] ?? 'none' })),
    );
  const call = (who: string, r: { method: string; path: string }): Promise<number> => {
    const path = r.path.replace(/\{(\w+)\}/g, (_, name: string) => ids[name] ?? 'CODE11');
    const agent = people[who] as unknown as Record<string, (p: string) => { timeout(ms: number): { send(b: object): Promise<{ status: number }> } }>;
    return agent[r.method]?.(path)
      .timeout(10_000)
      .send({})
      .then((x) => x.status) as Promise<number>;
  };

  test('every route has a rule, and the document in the repository is this one', () => {
    for (const r of routes()) expect({ ...r, known: needed.includes(r.access) }).toEqual({ ...r, known: true });
    const kept = JSON.parse(readFileSync(new URL('../openapi.json', import.meta.url), 'utf8')) as unknown;
    expect(JSON.parse(JSON.stringify(openApi(server.app)))).toEqual(kept); // else run: node scripts/openapi.mjs
  });
  test('nobody without a session, nobody of another workspace, nobody with a lower role', async () => {
    for (const r of routes().filter((x) => x.access !== 'public' && !x.path.endsWith('/events'))) {
      expect([r.method, r.path, await call('nobody', r)]).toEqual([r.method, r.path, 401]);
      if (r.access === 'session') continue;
      expect([r.method, r.path, await call('stranger', r)]).toEqual([r.method, r.path, 404]);
      for (const role of memberRoles.filter((m) => !mayAs(m, r.access as MemberRole)))
        expect([r.method, r.path, await call(role, r)]).toEqual([r.method, r.path, 403]);
    }
  });
  test('a request without the CSRF token of its session is refused', async () => {
    const agent = server.agent();
    await agent.post('/api/v1/session').send({ email: 'owner@x.example', password: 'pass word' }).expect(201);
    await agent
      .post(`/api/v1/workspaces/${ids['workspace'] ?? ''}/sets`)
      .send({ title: 'T' })
      .expect(403);
  });
});

describe('signing in', () => {
  test('a wrong password is told plainly, without saying whether the address is known, and limited', async () => {
    const agent = server.agent();
    const known = await agent.post('/api/v1/session').send({ email: 'reader@x.example', password: 'x' }).expect(401);
    const unknown = await agent.post('/api/v1/session').send({ email: 'nobody@x.example', password: 'x' }).expect(401);
    expect((known.body as { detail: string }).detail).toBe((unknown.body as { detail: string }).detail);
    expect(known.headers['content-type']).toContain('application/problem+json');
    for (let i = 0; i < 7; i++) await agent.post('/api/v1/session').send({ email: 'reader@x.example', password: 'x' });
    const limited = await agent.post('/api/v1/session').send({ email: 'reader@x.example', password: 'pass word' }).expect(429);
    expect((limited.body as { detail: string }).detail).toContain('Wait');
  });
  test('a form of another site cannot sign anybody in: only JSON is read', async () => {
    const agent = server.agent();
    for (const type of ['application/x-www-form-urlencoded', 'text/plain', 'multipart/form-data; boundary=x']) {
      const r = await agent.post('/api/v1/session').set('content-type', type).send('email=owner%40x.example&password=pass+word').expect(400);
      expect(r.headers['set-cookie']).toBeUndefined();
    }
  });
  test('sessions that have run out are removed', async () => {
    const agent = server.agent();
    await signIn(agent, 'editor@x.example', 'pass word');
    const run = server.orm.em.fork().getConnection();
    await run.execute("update session set expires_at = now() - interval '1 second' where id in (select id from session order by expires_at desc limit 1)");
    await agent.get('/api/v1/session').expect(401);
    await server.app.get(Housekeeping).tidy();
    expect(await run.execute('select 1 from session where expires_at < now()')).toEqual([]);
  });
  test('after signing out the cookie is worth nothing', async () => {
    const agent = server.agent();
    await signIn(agent, 'editor@x.example', 'pass word');
    await agent.delete('/api/v1/session').expect(204);
    await agent.get('/api/v1/session').expect(401);
  });
});

describe('editing', () => {
  const fresh = async (): Promise<{
    id: string;
    send: (base: number, operations: { id: string; operation: Operation }[], agent?: Agent) => Promise<{ status: number; body: Record<string, unknown> }>;
    document: () => Promise<SetDocument>;
  }> => {
    const r = await owner
      .post(`/api/v1/workspaces/${ids['workspace'] ?? ''}/sets`)
      .send({ title: 'Fresh' })
      .expect(201);
    const { id } = r.body as { id: string };
    return {
      id,
      send: async (base, operations, agent = owner) => {
        const x = await agent.post(`/api/v1/sets/${id}/operations`).send({ base, operations });
        return { status: x.status, body: x.body as Record<string, unknown> };
      },
      document: async () => ((await owner.get(`/api/v1/sets/${id}`).expect(200)).body as { document: SetDocument }).document,
    };
  };
  const insert = (...items: Item[]): { id: string; operation: Operation } => ({ id: newId(), operation: { type: 'insert', at: 0, items } });

  test('operations are applied in order, once, however often they are sent', async () => {
    const s = await fresh();
    const ops = [insert(item('a')), { id: newId(), operation: { type: 'change', id: 'a', set: { stem: 'new' } } as Operation }];
    expect(await s.send(0, ops)).toMatchObject({ status: 200, body: { version: 2 } });
    expect(await s.send(0, ops)).toMatchObject({ status: 200, body: { version: 2 } });
    expect((await s.document()).set.items.map((i) => i.stem)).toEqual(['new']);
  });
  test('a stale write is refused with what differs, and nothing of it is done', async () => {
    const s = await fresh();
    await s.send(0, [insert(item('a'))]);
    const stale = await s.send(0, [insert(item('b'))], people['editor']);
    expect(stale).toMatchObject({ status: 409, body: { code: 'stale', version: 1, operations: [{ version: 1, operation: { type: 'insert' } }] } });
    expect((await s.document()).set.items).toHaveLength(1);
  });
  test('two people who write at the same moment do not overwrite each other', async () => {
    const s = await fresh();
    const results = await Promise.all(Array.from({ length: 6 }, (_, i) => s.send(0, [insert(item(`x${i}`))])));
    expect(results.filter((r) => r.status === 200)).toHaveLength(1);
    expect(results.filter((r) => r.status === 409)).toHaveLength(5);
    expect((await s.document()).set.items).toHaveLength(1);
  });
  test('who asks for it goes on top of what others did, if nothing of it is touched, and is told so', async () => {
    const s = await fresh();
    await s.send(0, [insert(item('a'), item('b'))]);
    const change = (id: string, points: number): { id: string; operation: Operation } => ({ id: newId(), operation: { type: 'change', id, set: { points } } });
    const merge = async (base: number, o: object): Promise<{ status: number; body: Record<string, unknown> }> => {
      const x = await owner.post(`/api/v1/sets/${s.id}/operations`).send({ base, operations: [o], merge: true });
      return { status: x.status, body: x.body as Record<string, unknown> };
    };
    await s.send(1, [change('a', 5)], people['editor']);
    const mine = change('b', 7);
    expect(await merge(1, mine)).toEqual({ status: 200, body: { version: 3, merged: true } });
    expect((await s.document()).set.items.map((i) => i.points)).toEqual([5, 7]);
    expect(await merge(1, change('a', 9))).toMatchObject({ status: 409, body: { code: 'stale', version: 3 } });
    // the answer was lost: sent again it is known, and what others did since is still told
    expect(await merge(1, mine)).toEqual({ status: 200, body: { version: 3, merged: true } });
    expect(await merge(3, change('a', 9))).toEqual({ status: 200, body: { version: 4 } });
    expect(await merge(9, change('a', 9))).toMatchObject({ status: 409 });
  });
  test('the list of sets comes in pages, the last changed first, and says nothing twice', async () => {
    const em = server.orm.em.fork();
    const documents = server.app.get(Documents);
    const w = em.create(Workspace, { id: newId(), name: 'Many' });
    const account = await em.findOneOrFail(Account, { email: 'owner@x.example' });
    em.create(Membership, { account, workspace: w, role: 'owner' });
    await em.flush();
    const at = new Date('2026-11-01T00:00:00Z');
    for (let n = 0; n < 401; n++) await documents.create(em, { workspace: w.id, document: { set: { title: `S ${n}`, items: [] }, reviews: {} }, at });
    const seen: string[] = [];
    for (let after = ''; ; ) {
      const page = (await owner.get(`/api/v1/workspaces/${w.id}/sets${after && `?after=${after}`}`).expect(200)).body as { id: string }[];
      seen.push(...page.map((s) => s.id));
      if (page.length < 200) break;
      after = page.at(-1)?.id ?? '';
    }
    expect(seen).toHaveLength(401);
    expect(new Set(seen).size).toBe(401);
    await owner.get(`/api/v1/workspaces/${w.id}/sets?after=nonsense`).expect(400);
  });
  test('all of a batch or none: one operation that does not fit undoes the others', async () => {
    const s = await fresh();
    const bad = { id: newId(), operation: { type: 'remove', ids: ['gone'] } as Operation };
    expect(await s.send(0, [insert(item('a')), bad])).toMatchObject({ status: 422, body: { code: 'item-gone', id: bad.id } });
    expect((await s.document()).set.items).toHaveLength(0);
  });
  test('what is no operation is refused with its place', async () => {
    const s = await fresh();
    expect(await s.send(0, [{ id: newId(), operation: { type: 'explode' } as unknown as Operation }])).toMatchObject({
      status: 400,
      body: { code: 'operation-invalid' },
    });
    expect(await s.send(0, [insert(item('a', { points: -4 }))])).toMatchObject({ status: 400 });
  });
  test('markup that could run does not get into a set', async () => {
    const s = await fresh();
    await s.send(0, [insert(item('a', { stem: '<p>Hi<img src="x" onerror="alert(1)"/><script>alert(1)</script></p>' }))]);
    expect((await s.document()).set.items[0]?.stem).toBe('<p>Hi</p>');
  });
  test('an id of an operation on another set is refused, not taken for known', async () => {
    const one = await fresh();
    const other = await fresh();
    const op = insert(item('a'));
    expect(await one.send(0, [op])).toMatchObject({ status: 200 });
    expect(await other.send(0, [op])).toMatchObject({ status: 422, body: { code: 'operation-elsewhere' } });
    expect((await other.document()).set.items).toHaveLength(0);
  });
  test('who checked an item is who is signed in; taking something back brings the reviews of others back', async () => {
    const s = await fresh();
    const at = '2026-11-27T10:00:00.000Z';
    const review = (by: string): { id: string; operation: Operation } => ({
      id: newId(),
      operation: { type: 'review', id: 'a', review: { state: 'checked', by, at } },
    });
    await s.send(0, [insert(item('a')), review('The headteacher')]);
    expect((await s.document()).reviews['a']).toEqual({ state: 'checked', by: 'owner', at });
    await s.send(2, [{ id: newId(), operation: { type: 'review', id: 'a', review: null } }], people['editor']);
    await s.send(3, [review('owner')], people['editor']);
    expect((await s.document()).reviews['a']).toEqual({ state: 'checked', by: 'owner', at });
    await s.send(4, [{ id: newId(), operation: { type: 'all', operations: [review('Somebody').operation as never] } }], people['editor']);
    expect((await s.document()).reviews['a']).toMatchObject({ by: 'editor' });
  });
  test('an item called like something that every object has is an item like others', async () => {
    const s = await fresh();
    const names = ['constructor', '__proto__', 'toString', 'hasOwnProperty'];
    const r = await s.send(0, [insert(...names.map((n) => item(n)))]);
    expect([200, 400]).toContain(r.status);
    expect(await s.send(r.status === 200 ? 1 : 0, [insert(item('b'))])).toMatchObject({ status: 200 });
    const { reviews, set } = await s.document();
    expect(Object.keys(reviews)).toEqual([]);
    expect(set.items.map((i) => i.id)).toContain('b');
    expect(({} as Record<string, unknown>)['state']).toBeUndefined();
  });
  test('a set goes to the bin with what hangs on it, its quiz is closed, and it comes back or goes for good', async () => {
    const s = await fresh();
    await s.send(0, [insert(item(newId()))]);
    const published = (await owner.post(`/api/v1/sets/${s.id}/deliveries`).send({ shows: 'score' }).expect(201)).body as { code: string };
    await server.agent().get(`/api/v1/take/${published.code}`).expect(200);
    await owner.delete(`/api/v1/sets/${s.id}`).expect(204);
    await owner.get(`/api/v1/sets/${s.id}`).expect(404);
    await server.agent().get(`/api/v1/take/${published.code}`).expect(404);
    const bin = (await owner.get(`/api/v1/workspaces/${ids['workspace'] ?? ''}/bin`).expect(200)).body as { id: string; responses: number }[];
    expect(bin.find((b) => b.id === s.id)).toMatchObject({ responses: 0 });
    await people['stranger']?.post(`/api/v1/bin/${s.id}/back`).expect(404);
    await owner.post(`/api/v1/bin/${s.id}/back`).expect(204);
    expect((await s.document()).set.items).toHaveLength(1);
    await owner.delete(`/api/v1/bin/${s.id}`).expect(404);
    await owner.delete(`/api/v1/sets/${s.id}`).expect(204);
    await server.orm.em.fork().getConnection().execute("update quiz_set set deleted_at = now() - interval '29 days' where id = ?", [s.id]);
    await server.app.get(Housekeeping).tidy();
    await owner.post(`/api/v1/bin/${s.id}/back`).expect(204);
    await server.orm.em.fork().getConnection().execute("update quiz_set set deleted_at = now() - interval '31 days' where id = ?", [s.id]);
    await server.app.get(Housekeeping).tidy();
    await owner.post(`/api/v1/bin/${s.id}/back`).expect(404);
  });
  test('ids and addresses that are none are not here; sizes are said as they are', async () => {
    for (const id of ['-'.repeat(36), 'x', '00000000-0000-0000-0000-00000000000g', '%00']) await server.agent().get(`/api/v1/take/attempts/${id}`).expect(404);
    for (const path of [`/api/v1/sets/${'-'.repeat(36)}`, '/api/v1/sets/constructor', '/api/v1/sets/%E0%A4%A', '/api/v1/pushes/__proto__'])
      await owner.get(path).expect(404);
    const large = await owner
      .put(`/api/v1/sets/${ids['set'] ?? ''}/draft`)
      .send({ base: 0, text: 'x'.repeat(17 * 1_048_576), overrides: [] })
      .expect(413);
    expect((large.body as { detail: string }).detail).toBe('This has 17 MB; one request may have 16 MB. Split it and send the parts.');
    const answers = await server
      .agent()
      .put(`/api/v1/take/attempts/${newId()}`)
      .send({ responses: { a: { text: 'x'.repeat(2_000_000) } } })
      .expect(413);
    expect((answers.body as { detail: string }).detail).toContain('one request may have 1 MB');
  });
  test('a draft is not saved over a newer one; the newer one comes back', async () => {
    const s = await fresh();
    const put = (base: number, text: string): ReturnType<Agent['put']> => owner.put(`/api/v1/sets/${s.id}/draft`).send({ base, text, overrides: [] });
    await put(0, 'mine').expect(200, { version: 1 });
    await put(0, 'mine').expect(200, { version: 1 });
    const stale = await put(0, 'late').expect(409);
    expect(stale.body).toMatchObject({ code: 'stale-draft', version: 1, draft: { text: 'mine' } });
    await put(1, 'x'.repeat(17_000_000)).expect(413);
    await put(1, 'y'.repeat(5_000_000)).expect(200);
  });
});

describe('delivering and taking', () => {
  const begin = async (agent: Agent, code: string): Promise<{ id: string; token: string; items: Item[]; status: number }> => {
    const attempt = { id: newId(), token: 'a token that only I know', name: 'Ada' };
    const r = await agent.post(`/api/v1/take/${code}/attempts`).send(attempt);
    return { ...attempt, items: (r.body as { items: Item[] }).items, status: r.status };
  };
  test('a learner answers, hands in twice, and is marked once; another browser sees nothing', async () => {
    const agent = server.agent();
    const a = await begin(agent, 'code 11');
    expect(a.status).toBe(201);
    expect(JSON.stringify(a.items)).not.toContain('answer');
    const em = server.orm.em.fork();
    const set = (await em.findOneOrFail(Delivery, { code: 'CODE11' }, { populate: ['snapshot'] })).snapshot;
    const responses = Object.fromEntries(set.items.map((i) => [i.id, rightResponse(i)]));
    const submit = (token: string, body: object): ReturnType<Agent['post']> =>
      agent.post(`/api/v1/take/attempts/${a.id}/submit`).set('x-attempt-token', token).send(body);
    await submit('a token that somebody guessed', { responses }).expect(404);
    await agent.put(`/api/v1/take/attempts/${a.id}`).set('x-attempt-token', a.token).send({ responses: {} }).expect(200);
    const first = await submit(a.token, { responses }).expect(200);
    expect(first.body).toEqual({ points: 2, maximum: 2 });
    await submit(a.token, { responses: {} }).expect(200, { points: 2, maximum: 2 });
    expect(await em.count(Attempt, { id: a.id })).toBe(1);
  });
  test('an answer of a wrong shape is refused and nothing is kept of it', async () => {
    const agent = server.agent();
    const a = await begin(agent, 'CODE11');
    await agent
      .put(`/api/v1/take/attempts/${a.id}`)
      .set('x-attempt-token', a.token)
      .send({ responses: { [a.items[0]?.id ?? '']: { truth: 'maybe' } } })
      .expect(400);
  });
  test('a closed quiz takes nobody in; a wrong code is told plainly', async () => {
    await owner
      .patch(`/api/v1/deliveries/${ids['delivery'] ?? ''}`)
      .send({ open: false })
      .expect(200);
    expect((await begin(server.agent(), 'CODE11')).status).toBe(403);
    await owner
      .patch(`/api/v1/deliveries/${ids['delivery'] ?? ''}`)
      .send({ open: true })
      .expect(200);
    const wrong = await server.agent().get('/api/v1/take/NOSUCH').expect(404);
    expect((wrong.body as { detail: string }).detail).toContain('entry code');
  });
  test('items without a key do not go out as a quiz', async () => {
    const document = { set: { title: 'K', items: [item('k', { answer: null } as Partial<Item>)] }, reviews: {} };
    const keyless = await server.app.get(Documents).create(server.orm.em.fork(), { workspace: ids['workspace'] ?? '', document });
    const r = await owner.post(`/api/v1/sets/${keyless}/deliveries`).send({ shows: 'score' }).expect(422);
    expect(r.body).toMatchObject({ code: 'key-missing', items: ['k'] });
  });
  test('results come to the teacher with each answer and mark', async () => {
    const r = await owner.get(`/api/v1/deliveries/${ids['delivery'] ?? ''}/results`).expect(200);
    const { attempts } = r.body as { attempts: { name: string; points: number }[] };
    expect(attempts[0]).toMatchObject({ name: 'Ada', points: 2 });
  });
  test('results that are known are not sent again, until something in them is new (RFC 9110, If-None-Match)', async () => {
    const path = `/api/v1/deliveries/${ids['delivery'] ?? ''}/results`;
    const first = await owner.get(path).expect(200);
    const tag = first.headers['etag'] as string;
    const same = await owner.get(path).set('if-none-match', tag).expect(304);
    expect(same.text).toBe('');
    const attempts = (first.body as { attempts: { id: string; marks: Record<string, unknown> }[] }).attempts;
    const decision = { type: 'leave-out', item: Object.keys(attempts[0]?.marks ?? {})[0] };
    await owner
      .post(`/api/v1/deliveries/${ids['delivery'] ?? ''}/decisions`)
      .send({ decisions: [decision] })
      .expect(200);
    const next = await owner.get(path).set('if-none-match', tag).expect(200);
    expect(next.headers['etag']).not.toBe(tag);
    // who may not see them is not told that they are the same
    await server.agent().get(path).set('if-none-match', tag).expect(401);
  });
});

test('pages that wait for news are few for each person, and share one connection', () => {
  const changes = server.app.get(Changes);
  const streams = Array.from({ length: 8 }, () => changes.of(newId(), 'somebody').subscribe());
  expect(() => changes.of(newId(), 'somebody')).toThrow(Problem);
  const another = changes.of(newId(), 'another').subscribe();
  for (const s of [...streams, another]) s.unsubscribe();
  changes.of(newId(), 'somebody').subscribe().unsubscribe();
});

test('what changes a push is told to who follows it', async () => {
  const told: number[] = [];
  const push = ids['push'] ?? '';
  const stream = server.app
    .get(Changes)
    .of(push, 'somebody')
    .subscribe(() => told.push(Date.now()));
  await new Promise((r) => setTimeout(r, 400));
  const before = told.length;
  await server.orm.em.fork().nativeUpdate(Push, { id: push }, { step: 'Something new' });
  for (let n = 0; n < 100 && told.length === before; n++) await new Promise((r) => setTimeout(r, 50));
  expect(told.length).toBeGreaterThan(before);
  stream.unsubscribe();
});

test('the server says that it is well, that it lives, and that it can write', async () => {
  await server.agent().get('/api/v1/health/live').expect(200, { ok: true });
  await server.agent().get('/api/v1/health/ready').expect(200, { ok: true, database: true, role: 'all' });
  await server.agent().get('/api/v1/health').expect(200, { ok: true, database: true, role: 'all' });
});
