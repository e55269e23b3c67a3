/**
 * Quizzes inside courses, against a platform that is not ours: the LMS stand-in signs people and tools in with npm oidc-provider; and
 * against a bare platform of npm jose that sends what no good platform would.
 */
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { draw, type Item, newId, poolOf } from '@zakuska/core';
import * as jose from 'jose';
import { lmsApp } from '../../../standins/src/lms/app.js';
import { Store } from '../../../standins/src/lms/store.js';
import { Browser, formIn } from '../testing/browser.js';
import { choices, outside } from '../testing/pushes.js';
import { freshDatabase, startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';
import { claims } from './messages.js';
import { Scores } from './scores.js';
import { sql } from '../platform/sql.js';

let server: TestServer;
let world: World;
let store: Store;
let lms: Awaited<ReturnType<typeof outside>>;
let url: string;

const freePort = async (): Promise<number> => {
  const s = createServer();
  await new Promise<void>((r) => s.listen(0, '127.0.0.1', r));
  const { port } = s.address() as AddressInfo;
  await new Promise((r) => s.close(r));
  return port;
};
beforeAll(async () => {
  store = new Store(freshDatabase('zakuska_test_lti_there'));
  await store.open();
  lms = await outside((at) => lmsApp(store, at));
  const port = await freePort();
  url = `http://127.0.0.1:${port}`;
  process.env['PUBLIC_URL'] = url;
  process.env['PLATFORM_HOSTS'] = '127.0.0.1';
  server = await startServer('zakuska_test_lti_here');
  await server.app.listen(port, '127.0.0.1');
  world = await makeWorld(server, 'lti@x.example');
});
afterAll(async () => {
  await server.stop();
  lms.close();
  await store.close();
});
const sendScores = (): Promise<void> => server.app.get(Scores).work();
const json = async <T>(r: Response): Promise<T> => (await r.json()) as T;
const api = (path: string, method: string, body: object): Promise<Response> =>
  fetch(`${url}/api/v1${path}`, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });

/** A learner answers what a launch opened, all right or all wrong, and hands in. */
async function answered(at: string, right: boolean): Promise<{ points?: number }> {
  const [, code = '', launch = ''] = /\/t\/(\w+)#launch=(.+)$/.exec(at) ?? [];
  const begun = await json<{ id: string; items: { id: string; options?: { id: string; content: string }[] }[] }>(
    await api(`/take/${code}/attempts`, 'POST', { id: newId(), token: 'a token of the browser', launch }),
  );
  const responses = Object.fromEntries(
    begun.items.map((i) => [i.id, i.options ? { options: [i.options.find((o) => (o.content === 'oat') === right)?.id] } : { text: 'Because.' }]),
  );
  const done = await fetch(`${url}/api/v1/take/attempts/${begun.id}/submit`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'x-attempt-token': 'a token of the browser' },
    body: JSON.stringify({ responses }),
  });
  return json(done);
}

describe('in the LMS', () => {
  let delivery: string;
  let link: string;
  const grades = async (): Promise<Record<string, number>> => {
    const [column] = await store.columns('bread');
    return Object.fromEntries((column?.grades ?? []).map((g) => [g.person, g.score]));
  };
  const open = (person: string): Promise<{ url: string; status: number; text: string }> => new Browser().go(`${lms.url}/link/${link}`, { person });

  test('registered by its address, chosen from inside the course, and a column with it', async () => {
    const begun = await fetch(`${lms.url}/tools`, {
      method: 'POST',
      redirect: 'manual',
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
      body: new URLSearchParams({ address: `${url}/course/register` }),
    });
    const said = new URL(begun.headers.get('location') ?? '').searchParams;
    const body = { configuration: said.get('openid_configuration'), token: said.get('registration_token') };
    const made = await world.owner.post(`/api/v1/workspaces/${world.workspace}/platforms/registrations`).send(body).expect(201);
    expect(made.body).toMatchObject({ name: 'Harbour LMS', issuer: `${lms.url}/oidc`, deployments: [expect.any(String)] });
    // a token of the registration is good once
    await world.owner.post(`/api/v1/workspaces/${world.workspace}/platforms/registrations`).send(body).expect(422);

    const { clientId } = made.body as { clientId: string };
    const chosen = await new Browser().go(`${lms.url}/course/bread/add/${clientId}`, {});
    const [, launch = ''] = /\/course\/([0-9a-f-]{36})$/.exec(chosen.url) ?? [];
    expect((await world.owner.get(`/api/v1/lti/launches/${launch}`).expect(200)).body).toMatchObject({ course: 'Bread and Dough', deepLink: true });
    const set = await world.makeSet(choices(2));
    await world.owner.post(`/api/v1/lti/launches/${launch}/choice`).send({ delivery: newId() }).expect(404);
    const { next } = (await world.owner.post(`/api/v1/lti/launches/${launch}/choice`).send({ set, shows: 'score' }).expect(200)).body as { next: string };
    const answer = await world.owner.get(new URL(next).pathname).expect(200);
    const form = formIn(answer.text);
    expect(answer.headers['content-security-policy']).toContain(`form-action ${lms.url}`);
    const back = await new Browser().go(form?.action ?? '', form?.fields ?? {});
    expect(back.url).toBe(`${lms.url}/course/bread`);
    link = /href="\/link\/(\w+)"/.exec(back.text)?.[1] ?? '';
    expect(link).not.toBe('');
    [{ id: delivery }] = (await world.owner.get(`/api/v1/sets/${set}/deliveries`).expect(200)).body as [{ id: string }];
    expect(await store.columns('bread')).toMatchObject([{ title: 'T', maximum: 4 }]);

    // a version of a set, from inside another course
    const all = choices(4);
    const pool = await world.makeSet(all);
    const drawn = draw(poolOf([{ title: 'Pool', items: all }]), { versions: ['A', 'B'].map((name) => ({ name, count: 2 })), overlap: 'none' });
    await world.owner
      .post(`/api/v1/sets/${pool}/operations`)
      .send({ base: 1, operations: [{ id: newId(), operation: { type: 'draw', drawn } }] })
      .expect(200);
    const listed = (await world.owner.get(`/api/v1/workspaces/${world.workspace}/sets`).expect(200)).body as { id: string; versions: string[] }[];
    expect(listed.map((s) => [s.id === pool, s.versions])).toContainEqual([true, ['A', 'B']]);
    const again = await new Browser().go(`${lms.url}/course/safety/add/${clientId}`, {});
    const [, second = ''] = /\/course\/([0-9a-f-]{36})$/.exec(again.url) ?? [];
    await world.owner.post(`/api/v1/lti/launches/${second}/choice`).send({ set: pool, version: 'Z' }).expect(404);
    await world.owner.post(`/api/v1/lti/launches/${second}/choice`).send({ set: pool, version: 'B' }).expect(200);
    const published = (await world.owner.get(`/api/v1/sets/${pool}/deliveries`).expect(200)).body as object[];
    expect(published).toMatchObject([{ version: 'B', title: 'T, version B', items: 2 }]);
  });

  test('a learner is known by name, goes on with what is under way, and the best score arrives', async () => {
    const first = await open('b0');
    expect(first.url).toMatch(/\/t\/\w{6}#launch=/);
    const [, code = '', launch = ''] = /\/t\/(\w+)#launch=(.+)$/.exec(first.url) ?? [];
    const welcome = async (): Promise<object> => json(await fetch(`${url}/api/v1/take/${code}`, { headers: { 'x-launch': launch } }));
    expect(await welcome()).toMatchObject({ learner: { name: 'Ada Brandt', underWay: false, handedIn: 0 } });
    const here = await json<{ id: string; name: string }>(
      await api(`/take/${code}/attempts`, 'POST', { id: newId(), token: 'the first device of Ada', launch }),
    );
    expect(here.name).toBe('Ada Brandt');
    expect(await welcome()).toMatchObject({ learner: { underWay: true } });
    // on another device it is the same attempt
    expect(await answered((await open('b0')).url, false)).toMatchObject({ points: 0 });
    expect(await welcome()).toMatchObject({ learner: { underWay: false, handedIn: 1 } });
    await sendScores();
    expect(await grades()).toEqual({ b0: 0 });
    expect(await answered((await open('b0')).url, true)).toMatchObject({ points: 4 });
    expect(await answered((await open('b1')).url, true)).toMatchObject({ points: 4 });
    await sendScores();
    expect(await grades()).toEqual({ b0: 4, b1: 4 });
    // worse later: the best stays
    await answered((await open('b0')).url, false);
    await sendScores();
    expect(await grades()).toEqual({ b0: 4, b1: 4 });
    expect((await world.owner.get(`/api/v1/deliveries/${delivery}/courses`).expect(200)).body).toEqual([
      { platform: 'Harbour LMS', course: 'Bread and Dough', sent: 4, waiting: 0, refused: [], members: true },
    ]);
    const { attempts } = (await world.owner.get(`/api/v1/deliveries/${delivery}/results`).expect(200)).body as {
      attempts: { name: string; attempt: number }[];
    };
    expect(
      attempts
        .filter((a) => a.name === 'Ada Brandt')
        .map((a) => a.attempt)
        .sort(),
    ).toEqual([1, 2, 3]);
    // where the last counts, the last goes there
    const counts = (which: string) =>
      world.owner
        .patch(`/api/v1/deliveries/${delivery}`)
        .send({ rules: { counts: which } })
        .expect(200);
    for (const [which, points] of [
      ['last', 0],
      ['best', 4],
    ] as const) {
      await counts(which);
      await answered((await open('b0')).url, false);
      await sendScores();
      expect(await grades()).toEqual({ b0: points, b1: 4 });
    }
  });

  test('a name that is typed is nobody of the course', async () => {
    const { code } = ((await world.owner.get(`/api/v1/deliveries/${delivery}/results`).expect(200)).body as { delivery: { code: string } }).delivery;
    const typed = await json<{ name: string }>(
      await api(`/take/${code}/attempts`, 'POST', { id: newId(), token: 'somebody who is at home', name: 'Ada Brandt' }),
    );
    expect(typed.name).toBe('Ada Brandt');
    await api(`/take/${code}/attempts`, 'POST', { id: newId(), token: 'somebody who is at home', launch: 'x'.repeat(43) }).then((r) =>
      expect(r.status).toBe(403),
    );
    expect(await grades()).toEqual({ b0: 4, b1: 4 });
  });

  test('who teaches comes to the results', async () => {
    expect((await open('bread-t')).url).toMatch(new RegExp(`^${url}/sets/[0-9a-f-]+/results\\?of=${delivery}$`));
  });

  test('who of the course has not handed in, over several pages', async () => {
    const { body } = await world.owner.post(`/api/v1/deliveries/${delivery}/members`).expect(200);
    const members = body as { name: string; state: string }[];
    expect(members).toHaveLength(29);
    expect(members.filter((m) => m.state === 'handed in').map((m) => m.name)).toEqual(['Ada Brandt', 'Mira Castel']);
    expect(members.some((m) => m.name === 'Mary Okafor')).toBe(false);
  });
});

/** A platform of a few lines: its keys, tokens for whoever asks, and a record of what is sent to it. */
class BarePlatform {
  readonly issuer = 'https://bare.example';
  readonly clientId = 'client of bare';
  key!: jose.CryptoKey;
  received: { path: string; body: Record<string, unknown> }[] = [];
  columns: Record<string, unknown>[] = [];
  /** Statuses that the next scores get. */
  next: number[] = [];
  url = '';
  private http!: Server;
  async start(): Promise<void> {
    const { privateKey, publicKey } = await jose.generateKeyPair('RS256', { extractable: true });
    this.key = privateKey;
    const keys = { keys: [{ ...(await jose.exportJWK(publicKey)), kid: 'k1', alg: 'RS256' }] };
    this.http = createServer((q, r) => {
      const parts: Buffer[] = [];
      q.on('data', (c: Buffer) => parts.push(c));
      q.on('end', () => {
        const text = Buffer.concat(parts).toString();
        const give = (body: unknown, status = 200): void => void r.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
        if (q.url === '/keys') return give(keys);
        if (q.url === '/token') {
          this.received.push({ path: '/token', body: Object.fromEntries(new URLSearchParams(text)) });
          return give({ access_token: 'good', expires_in: 3600 });
        }
        if (q.url?.startsWith('/columns') && q.method === 'GET') return give(this.columns);
        const body = JSON.parse(text || '{}') as Record<string, unknown>;
        this.received.push({ path: q.url ?? '', body });
        if (q.url === '/columns') {
          const made = { ...body, id: `${this.url}/columns/${this.columns.length + 1}?of=1` };
          this.columns.push(made);
          return give(made, 201);
        }
        give({}, this.next.shift() ?? 200);
      });
    });
    await new Promise<void>((done) => this.http.listen(0, '127.0.0.1', done));
    this.url = `http://127.0.0.1:${(this.http.address() as AddressInfo).port}`;
  }
  stop(): void {
    this.http.closeAllConnections();
    this.http.close();
  }
}

describe('what a platform may not send', () => {
  const bare = new BarePlatform();
  let quiz: string;
  beforeAll(async () => {
    await bare.start();
    const { issuer, clientId } = bare;
    const addresses = { authUrl: `${bare.url}/auth`, tokenUrl: `${bare.url}/token`, jwksUrl: `${bare.url}/keys` };
    const path = `/api/v1/workspaces/${world.workspace}/platforms`;
    await world.owner
      .post(path)
      .send({ name: 'Bare', issuer, clientId, deployment: 'd1', ...addresses })
      .expect(201);
    await world.owner
      .post(path)
      .send({ name: 'Bare', issuer, clientId, deployment: 'd1', ...addresses, jwksUrl: 'ftp://x' })
      .expect(400);
    ({ id: quiz } = await world.publish(choices(1), 'score'));
  });
  afterAll(() => bare.stop());

  test('a platform speaks for itself only, and says what it is in a way that can be read', async () => {
    const said: Record<string, unknown> = {};
    const other = createServer((_q, r) => void r.end(typeof said['raw'] === 'string' ? said['raw'] : JSON.stringify(said)));
    await new Promise<void>((done) => other.listen(0, '127.0.0.1', done));
    const at = `http://127.0.0.1:${(other.address() as AddressInfo).port}`;
    const register = async (): Promise<string> => {
      const r = await world.owner.post(`/api/v1/workspaces/${world.workspace}/platforms/registrations`).send({ configuration: `${at}/c` });
      return `${r.status} ${(r.body as { detail: string }).detail}`;
    };
    const all = { authorization_endpoint: `${at}/a`, token_endpoint: `${at}/t`, jwks_uri: `${at}/k`, registration_endpoint: `${at}/r` };
    Object.assign(said, all, { issuer: at.slice(0, -1) });
    expect(await register()).toMatch(/^422 .*it names another platform/);
    Object.assign(said, { issuer: 'no address' });
    expect(await register()).toMatch(/^422 .*it names another platform/);
    Object.assign(said, { issuer: at, jwks_uri: 'keys' });
    expect(await register()).toMatch(/^422 .*an address is none/);
    Object.assign(said, { ...all, jwks_uri: 'http://10.0.0.1/k' });
    expect(await register()).toMatch(/^422 .*private network/);
    Object.assign(said, { raw: '<html>' });
    expect(await register()).toMatch(/^502 /);
    other.closeAllConnections();
    other.close();
  });

  const now = (): number => Math.floor(Date.now() / 1000);
  const message = (nonce: string): jose.JWTPayload => ({
    iss: bare.issuer,
    aud: bare.clientId,
    sub: 'p1',
    name: 'Ada',
    nonce,
    iat: now(),
    exp: now() + 300,
    [claims.messageType]: 'LtiResourceLinkRequest',
    [claims.version]: '1.3.0',
    [claims.deployment]: 'd1',
    [claims.roles]: ['http://purl.imsglobal.org/vocab/lis/v2/membership#Learner'],
    [claims.resourceLink]: { id: 'l1' },
    [claims.custom]: { zakuska_quiz: quiz },
  });
  const sign = (payload: jose.JWTPayload, header: object = {}): Promise<string> =>
    new jose.SignJWT(payload).setProtectedHeader({ alg: 'RS256', kid: 'k1', ...header }).sign(bare.key);
  /** Begins a launch as a browser does. */
  async function login(browser = new Browser()): Promise<{ browser: Browser; state: string; nonce: string }> {
    const q = new URLSearchParams({ iss: bare.issuer, client_id: bare.clientId, login_hint: 'p1', target_link_uri: url });
    const res = await fetch(`${url}/api/v1/lti/login?${q}`, { redirect: 'manual' });
    for (const c of res.headers.getSetCookie()) {
      const [, name = '', value = ''] = /^([^=]+)=([^;]*)/.exec(c) ?? [];
      browser.cookies.set(name, value);
    }
    const to = new URL(res.headers.get('location') ?? '').searchParams;
    expect(Object.fromEntries(to)).toMatchObject({ response_type: 'id_token', response_mode: 'form_post', prompt: 'none', scope: 'openid', login_hint: 'p1' });
    return { browser, state: to.get('state') ?? '', nonce: to.get('nonce') ?? '' };
  }
  /** What is said to a message; `in` where it is taken. */
  const said = ({ url: at, status, text }: { url: string; status: number; text: string }): string =>
    at.includes('/t/') ? 'in' : status === 403 ? (/refused: (.*)\. Open the link/.exec(text)?.[1] ?? text) : `${status}`;
  const send = async (make: (nonce: string) => Promise<string> | string): Promise<string> => {
    const { browser, state, nonce } = await login();
    return said(await browser.go(`${url}/api/v1/lti/launch`, { state, id_token: await make(nonce) }));
  };
  const changed = (change: jose.JWTPayload, header: object = {}): Promise<string> => send((nonce) => sign({ ...message(nonce), ...change }, header));

  test('as it should be', async () => {
    expect(await changed({})).toBe('in');
    expect(await changed({ aud: [bare.clientId] })).toBe('in');
    expect(await changed({ aud: [bare.clientId, 'other'], azp: bare.clientId })).toBe('in');
  });
  test.each<[string, () => jose.JWTPayload, string]>([
    ['run out', () => ({ exp: now() - 120 }), 'it is too old'],
    ['made long ago', () => ({ iat: now() - 3600 }), 'it is too old'],
    ['from the future', () => ({ iat: now() + 300, exp: now() + 600 }), 'the clock of the platform differs from the clock here'],
    ['not good yet', () => ({ nbf: now() + 300 }), 'the clock of the platform differs from the clock here'],
    ['for another tool', () => ({ aud: 'other' }), 'it was made for another tool'],
    ['for several, of whom it is not said', () => ({ aud: [bare.clientId, 'other'] }), 'it was made for another tool'],
    ['given to another', () => ({ azp: 'other' }), 'it was made for another tool'],
    ['of another platform', () => ({ iss: 'https://other.example' }), 'it comes from another platform'],
    ['of another launch', () => ({ nonce: 'other' }), 'it belongs to another launch'],
    ['of another deployment', () => ({ [claims.deployment]: 'd2' }), 'this deployment of the platform is not registered here'],
    ['without a deployment', () => ({ [claims.deployment]: undefined }), 'it names no deployment'],
    ['of another version', () => ({ [claims.version]: '1.1' }), 'it is not LTI 1.3'],
    ['of another type', () => ({ [claims.messageType]: 'Other' }), 'messages of the type “Other” are not taken'],
    ['without roles', () => ({ [claims.roles]: undefined }), 'it says no roles'],
    ['without a link', () => ({ [claims.resourceLink]: {} }), 'it names no resource link'],
    ['without a person', () => ({ sub: undefined }), 'its claim “sub” is not as it should be'],
    ['with a quiz of somebody else', () => ({ [claims.custom]: { zakuska_quiz: newId() } }), 'your teacher has not chosen yet what this link opens'],
    [
      'to choose, by a learner',
      () => ({ [claims.messageType]: 'LtiDeepLinkingRequest', [claims.deepLink]: { deep_link_return_url: 'https://x.example' } }),
      'only who teaches chooses what a link opens',
    ],
    [
      'to choose, without a way back',
      () => ({ [claims.messageType]: 'LtiDeepLinkingRequest', [claims.deepLink]: { deep_link_return_url: 'javascript:alert(1)' } }),
      'it says no address to go back to',
    ],
  ])('a message %s', async (_, change, why) => expect(await changed(change())).toBe(why));

  test('clocks may differ by less than a minute', async () => {
    expect(await changed({ iat: now() + 40 })).toBe('in');
    expect(await changed({ exp: now() - 40 })).toBe('in');
  });
  test('what the platform did not sign', async () => {
    const { privateKey } = await jose.generateKeyPair('RS256');
    expect(await send((n) => new jose.SignJWT(message(n)).setProtectedHeader({ alg: 'RS256', kid: 'k1' }).sign(privateKey))).toBe(
      'the platform did not sign it',
    );
    expect(await changed({}, { kid: 'unknown' })).toBe('the platform did not sign it');
    expect(await send((n) => new jose.UnsecuredJWT(message(n)).encode())).not.toBe('in');
    const secret = new TextEncoder().encode('whatever is public');
    expect(await send((n) => new jose.SignJWT(message(n)).setProtectedHeader({ alg: 'HS256', kid: 'k1' }).sign(secret))).toBe(
      'it is signed in a way that is not taken',
    );
    expect(await send(() => 'a.b.c')).toBe('it cannot be read');
  });
  test('sent twice, without a beginning, or by another browser', async () => {
    const { browser, state, nonce } = await login();
    const form = { state, id_token: await sign(message(nonce)) };
    expect(said(await new Browser().go(`${url}/api/v1/lti/launch`, form))).toBe('it was begun in another browser, or this browser keeps no cookies');
    expect(said(await browser.go(`${url}/api/v1/lti/launch`, form))).toBe('it was begun elsewhere, or used already');
    const again = await login();
    const good = { state: again.state, id_token: await sign(message(again.nonce)) };
    expect(said(await again.browser.go(`${url}/api/v1/lti/launch`, good))).toBe('in');
    expect(said(await again.browser.go(`${url}/api/v1/lti/launch`, good))).toBe('it was begun elsewhere, or used already');
    // another launch of the same browser, with the message of the first
    const other = await login(again.browser);
    expect(said(await again.browser.go(`${url}/api/v1/lti/launch`, { state: other.state, id_token: good.id_token }))).toBe('it belongs to another launch');
    expect(said(await new Browser().go(`${url}/api/v1/lti/login?iss=https://nobody.example&login_hint=x`))).toBe('the platform is not registered here');
  });
  test('what the platform says went wrong is shown as text', async () => {
    const r = await new Browser().go(`${url}/api/v1/lti/launch`, { error: 'login_required', error_description: '<b>no</b>' });
    expect(r.text).toContain('&lt;b&gt;no&lt;/b&gt;');
    expect(r.text).not.toContain('<b>no');
  });

  const withScores = (n: string, person: string, more: jose.JWTPayload = {}): Promise<string> =>
    sign({
      ...message(n),
      sub: person,
      [claims.scores]: {
        scope: ['https://purl.imsglobal.org/spec/lti-ags/scope/lineitem', 'https://purl.imsglobal.org/spec/lti-ags/scope/score'],
        lineitems: `${bare.url}/columns`,
      },
      ...more,
    });
  const launched = async (person: string, more: jose.JWTPayload = {}): Promise<string> => {
    const { browser, state, nonce } = await login();
    return (await browser.go(`${url}/api/v1/lti/launch`, { state, id_token: await withScores(nonce, person, more) })).url;
  };
  const scoresOf = (person: string): Record<string, unknown>[] =>
    bare.received.filter((x) => x.path.includes('/scores') && x.body['userId'] === person).map((x) => x.body);

  test('without a column one is made, once; the score has what the specification asks for; the assertion is as OAuth asks', async () => {
    bare.received = [];
    await answered(await launched('p2'), true);
    await sendScores();
    await answered(await launched('p3'), false);
    await sendScores();
    expect(bare.columns).toMatchObject([{ label: 'T', scoreMaximum: 2, resourceLinkId: 'l1', resourceId: quiz }]);
    // a query of the column stays behind the path of its scores
    expect(bare.received.filter((x) => x.path.includes('/scores')).map((x) => x.path)).toEqual(['/columns/1/scores?of=1', '/columns/1/scores?of=1']);
    expect(scoresOf('p2')).toEqual([
      {
        userId: 'p2',
        scoreGiven: 2,
        scoreMaximum: 2,
        activityProgress: 'Completed',
        gradingProgress: 'FullyGraded',
        timestamp: expect.stringMatching(/^\d{4}-\d\d-\d\dT.*Z$/),
      },
    ]);
    expect(scoresOf('p3')).toMatchObject([{ scoreGiven: 0 }]);
    const [asked] = bare.received.filter((x) => x.path === '/token');
    const { keys } = await json<jose.JSONWebKeySet>(await fetch(`${url}/api/v1/lti/keys`));
    const { payload } = await jose.jwtVerify(String(asked?.body['client_assertion']), jose.createLocalJWKSet({ keys }), {
      issuer: bare.clientId,
      subject: bare.clientId,
      audience: `${bare.url}/token`,
      requiredClaims: ['jti', 'exp', 'iat'],
    });
    expect(payload.exp).toBeDefined();
    expect(keys.every((k) => !('d' in k))).toBe(true);
  });
  test('what is decided once answers are in changes the score of the course, and of whom it changes only', async () => {
    const [item] = ((await world.owner.get(`/api/v1/deliveries/${quiz}/results`).expect(200)).body as { set: { items: { id: string }[] } }).set.items;
    bare.received = [];
    const { body } = await world.owner
      .post(`/api/v1/deliveries/${quiz}/decisions`)
      .send({ decisions: [{ type: 'full-points', item: item?.id }] })
      .expect(200);
    await sendScores();
    expect(scoresOf('p3')).toMatchObject([{ scoreGiven: 2, scoreMaximum: 2 }]);
    expect(scoresOf('p2')).toEqual([]);
    await world.owner
      .post(`/api/v1/deliveries/${quiz}/decisions/back`)
      .send({ ids: (body as { id: string }[]).map((d) => d.id) })
      .expect(204);
    await sendScores();
    expect(scoresOf('p3')).toHaveLength(2);
    expect(scoresOf('p3')[1]).toMatchObject({ scoreGiven: 0 });
  });
  test('a day that it was due, said afterwards, changes the scores of those who were later; taken away, they are whole again', async () => {
    const rules = (late: object | null) => world.owner.patch(`/api/v1/deliveries/${quiz}`).send({ rules: { late } }).expect(200);
    bare.received = [];
    await rules({ due: '2026-01-01T00:00:00.000Z', percent: 25, per: 'once' });
    await sendScores();
    expect(scoresOf('p2')).toMatchObject([{ scoreGiven: 1.5, scoreMaximum: 2 }]);
    await rules(null);
    await sendScores();
    expect(scoresOf('p2')[1]).toMatchObject({ scoreGiven: 2 });
  });
  test('points are rounded for the course as they are in Results, and sent again when that is changed', async () => {
    const [{ set_id: set = '' } = {}] = await sql<{ set_id: string }>(server.orm.em.fork(), 'select set_id from delivery where id = ?', [quiz]);
    const said = (more: object) => world.owner.post(`/api/v1/sets/${set}/operations`).send(more).expect(200);
    const rules = (late: object | null) => world.owner.patch(`/api/v1/deliveries/${quiz}`).send({ rules: { late } }).expect(200);
    await rules({ due: '2026-01-01T00:00:00.000Z', percent: 15, per: 'once' });
    await sendScores();
    bare.received = [];
    const { version } = (await world.owner.get(`/api/v1/sets/${set}`).expect(200)).body as { version: number };
    const aim = (rounding: string | null) => ({ id: newId(), operation: { type: 'aim', aim: rounding ? { rounding } : null } });
    await said({ base: version, operations: [aim('half')] });
    await sendScores();
    // 1.7 of 2
    expect(scoresOf('p2')).toMatchObject([{ scoreGiven: 1.5, scoreMaximum: 2 }]);
    await said({ base: version + 1, operations: [aim(null)] });
    await sendScores();
    expect(scoresOf('p2')[1]).toMatchObject({ scoreGiven: 1.7 });
    await rules(null);
    await sendScores();
  });
  test('a platform in trouble is tried again; one that refuses is told, and sent again when a person asks', async () => {
    bare.next = [503];
    await answered(await launched('p4'), true);
    await sendScores();
    await server.orm.em.fork().getConnection().execute('update lti_score set next_at = now() where sent_at is null');
    await sendScores();
    expect(scoresOf('p4')).toHaveLength(2);
    bare.next = [400];
    await answered(await launched('p5'), true);
    await sendScores();
    const courses = async (): Promise<{ refused: { problem: string }[]; waiting: number }> =>
      ((await world.owner.get(`/api/v1/deliveries/${quiz}/courses`).expect(200)).body as [{ refused: { problem: string }[]; waiting: number }])[0];
    expect(await courses()).toMatchObject({ waiting: 0, refused: [{ problem: 'Bare refused the score (status 400).' }] });
    await world.owner.post(`/api/v1/deliveries/${quiz}/courses/again`).expect(204);
    await sendScores();
    expect(await courses()).toMatchObject({ waiting: 0, refused: [] });
  });
  test('essays wait for a person', async () => {
    const essay = { id: newId(), kind: 'essay', stem: 'Why?', points: 3 } as Item;
    const { id } = await world.publish([...choices(1), essay], 'score');
    await answered(await launched('p6', { [claims.custom]: { zakuska_quiz: id }, [claims.resourceLink]: { id: 'l2' } }), true);
    await sendScores();
    expect(scoresOf('p6')).toMatchObject([{ gradingProgress: 'PendingManual' }]);
  });
  test('a link that was made without a quiz is given one by who teaches', async () => {
    const bareLink = { [claims.resourceLink]: { id: 'l9' }, [claims.custom]: {} };
    const teacher = { ...bareLink, [claims.roles]: ['http://purl.imsglobal.org/vocab/lis/v2/membership#Instructor'] };
    expect(await changed(bareLink)).toBe('your teacher has not chosen yet what this link opens');
    const at = await launched('t1', teacher);
    const launch = /\/course\/(.+)$/.exec(at)?.[1] ?? '';
    expect((await world.owner.get(`/api/v1/lti/launches/${launch}`).expect(200)).body).toMatchObject({ deepLink: false, platform: 'Bare' });
    const other = await makeWorld(server, 'stranger@x.example');
    await other.owner.get(`/api/v1/lti/launches/${launch}`).expect(404);
    await world.owner.post(`/api/v1/lti/launches/${launch}/choice`).send({ delivery: quiz }).expect(200);
    expect(await changed(bareLink)).toBe('in');
  });
});
