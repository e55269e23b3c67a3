/** Signing in with a school's provider, against one that is not ours: npm oidc-provider, with its own pages for signing in and agreeing. */
import http from 'node:http';
import net, { type AddressInfo } from 'node:net';
import { jest } from '@jest/globals';
import { decodeJwt, exportJWK, generateKeyPair, SignJWT } from 'jose';
import Provider from 'oidc-provider';
import { Browser, formIn } from '../testing/browser.js';
import { startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';

const freePort = (): Promise<number> =>
  new Promise((done) => {
    const s = net.createServer().listen(0, '127.0.0.1', () => {
      const { port } = s.address() as AddressInfo;
      s.close(() => done(port));
    });
  });

/** What the provider says of who signs in, by the name typed there. */
const PEOPLE: Record<string, Record<string, unknown>> = {
  nell: { email: 'Nell@saltmarsh.example', email_verified: true, name: 'Nell Ashby' },
  owner: { email: 'owner@saltmarsh.example', email_verified: true, name: 'Another name' },
  claims: { email: 'owner@saltmarsh.example', email_verified: false, name: 'Not the owner' },
  none: { name: 'No Address' },
};

let server: TestServer;
let world: World;
let school: http.Server;
let base: string;
beforeAll(async () => {
  const [port, schoolPort] = [await freePort(), await freePort()];
  base = `http://127.0.0.1:${port}`;
  const issuer = `http://127.0.0.1:${schoolPort}`;
  // it warns of what is only for trying
  jest.spyOn(console, 'warn').mockImplementation(() => undefined);
  jest.spyOn(console, 'info').mockImplementation(() => undefined);
  const provider = new Provider(issuer, {
    clients: [
      {
        client_id: 'zakuska',
        client_secret: 'a secret between them',
        redirect_uris: [`${base}/api/v1/session/provider/callback`],
        application_type: 'native',
        token_endpoint_auth_method: 'client_secret_post',
      },
    ],
    claims: { openid: ['sub'], email: ['email', 'email_verified'], profile: ['name'] },
    findAccount: (_, id) => ({ accountId: id, claims: () => ({ sub: id, ...PEOPLE[id] }) }),
    pkce: { required: () => true },
  });
  school = http.createServer(provider.callback()).listen(schoolPort, '127.0.0.1');
  Object.assign(process.env, {
    PUBLIC_URL: base,
    OIDC_ISSUER: issuer,
    OIDC_CLIENT_ID: 'zakuska',
    OIDC_CLIENT_SECRET: 'a secret between them',
    OIDC_NAME: 'Saltmarsh',
    OIDC_ROLE: 'marker',
  });
  server = await startServer('zakuska_test_provider');
  world = await makeWorld(server, 'owner@saltmarsh.example');
  const { settings } = await import('../platform/settings.js');
  settings().provider.workspace = world.workspace;
  await server.app.listen(port, '127.0.0.1');
});
afterAll(async () => {
  await server.stop();
  school.closeAllConnections();
  school.close();
});

/** Goes to the provider, signs in and agrees there, and comes back. */
async function come(
  as: string,
  browser = new Browser(),
): Promise<{ url: string; session: { email?: string; workspaces?: { id: string; role: string }[] } | null }> {
  let page = await browser.go(`${base}/api/v1/session/provider?back=/sets`);
  for (let step = 0; step < 4 && !page.url.startsWith(base); step++) {
    const form = formIn(page.text);
    if (!form) throw new Error(`no form at ${page.url}: ${page.text.slice(0, 300)}`);
    page = await browser.go(new URL(form.action, page.url).href, { ...form.fields, ...('login' in form.fields && { login: as, password: 'any' }) });
  }
  const session = await browser.go(`${base}/api/v1/session`);
  return { url: page.url, session: session.status === 200 ? (JSON.parse(session.text) as { email: string }) : null };
}
const why = (url: string): string => new URL(url).searchParams.get('refused') ?? '';
const run = (text: string): Promise<Record<string, unknown>[]> => server.orm.em.fork().getConnection().execute(text);

test('who comes for the first time gets an account in the workspace, with the role that is set; the next time it is the same', async () => {
  expect((await server.agent().get('/api/v1/session/ways')).body).toMatchObject({ provider: 'Saltmarsh' });
  const { url, session } = await come('nell');
  expect(url).toBe(`${base}/sets`);
  expect(session).toMatchObject({ email: 'nell@saltmarsh.example', workspaces: [{ id: world.workspace, role: 'marker' }] });
  // known by who they are there, not by their address
  PEOPLE['nell'] = { ...PEOPLE['nell'], email: 'married@saltmarsh.example' };
  expect((await come('nell')).session).toMatchObject({ email: 'nell@saltmarsh.example' });
  expect(await run("select 1 from account where email = 'married@saltmarsh.example'")).toEqual([]);
});

test('an account that is there is taken where the address was checked, and only then', async () => {
  const unchecked = await come('claims');
  expect(unchecked.session).toBeNull();
  expect(why(unchecked.url)).toContain('does not say which address is yours');
  expect(why((await come('none')).url)).toContain('does not say which address is yours');
  expect((await come('owner')).session).toMatchObject({ email: 'owner@saltmarsh.example', workspaces: [{ role: 'owner' }] });
});

test('where nobody new is let in, it is said', async () => {
  const { settings } = await import('../platform/settings.js');
  settings().provider.workspace = '';
  PEOPLE['stranger'] = { email: 'stranger@saltmarsh.example', email_verified: true, name: 'S' };
  expect(why((await come('stranger')).url)).toContain('no account with your address');
  expect(await run("select 1 from account where email = 'stranger@saltmarsh.example'")).toEqual([]);
  settings().provider.workspace = world.workspace;
});

describe('what somebody tries who was not sent by us', () => {
  test('an answer without the beginning, with another state, twice, or to an address elsewhere', async () => {
    const callback = `${base}/api/v1/session/provider/callback`;
    expect(why((await new Browser().go(`${callback}?code=x&state=y`)).url)).toContain('not begun here');
    const browser = new Browser();
    await fetch(`${base}/api/v1/session/provider`, { redirect: 'manual' }).then((r) =>
      r.headers.getSetCookie().forEach((c) => browser.cookies.set(...((c.split(';')[0] ?? '').split(/=(.*)/s) as [string, string]))),
    );
    expect(why((await browser.go(`${callback}?code=x&state=forged`)).url)).toContain('did not confirm');
    // the beginning is used up
    expect(why((await browser.go(`${callback}?code=x&state=forged`)).url)).toContain('not begun here');
    for (const back of ['//evil.example', 'https://evil.example', '/\\evil.example'])
      expect((await fetch(`${base}/api/v1/session/provider?back=${encodeURIComponent(back)}`, { redirect: 'manual' })).status).toBe(400);
  });

  test('a token of another key is none', async () => {
    const { settings } = await import('../platform/settings.js');
    const { SchoolProvider } = await import('./provider.js');
    // a provider whose tokens are signed by a key that it does not name
    const port = await freePort();
    const issuer = `http://127.0.0.1:${port}`;
    const [named, other] = [await generateKeyPair('RS256'), await generateKeyPair('RS256')];
    let nonce = '';
    const forging = http
      .createServer(async (q, r) => {
        const url = new URL(q.url ?? '/', issuer);
        const json = (body: object): void => void r.setHeader('content-type', 'application/json').end(JSON.stringify(body));
        if (url.pathname.startsWith('/.well-known'))
          return json({
            issuer,
            authorization_endpoint: `${issuer}/auth`,
            token_endpoint: `${issuer}/token`,
            jwks_uri: `${issuer}/jwks`,
            response_types_supported: ['code'],
            subject_types_supported: ['public'],
            id_token_signing_alg_values_supported: ['RS256'],
          });
        if (url.pathname === '/jwks') return json({ keys: [{ ...(await exportJWK(named.publicKey)), kid: 'k', alg: 'RS256', use: 'sig' }] });
        if (url.pathname === '/auth') {
          nonce = url.searchParams.get('nonce') ?? '';
          return void r.writeHead(302, { location: `${url.searchParams.get('redirect_uri')}?code=c&state=${url.searchParams.get('state')}` }).end();
        }
        const id_token = await new SignJWT({ nonce, email: 'owner@saltmarsh.example', email_verified: true })
          .setProtectedHeader({ alg: 'RS256', kid: 'k' })
          .setIssuer(issuer)
          .setAudience('zakuska')
          .setSubject('owner')
          .setIssuedAt()
          .setExpirationTime('5m')
          .sign(other.privateKey);
        expect(decodeJwt(id_token).sub).toBe('owner');
        json({ access_token: 'a', token_type: 'Bearer', id_token });
      })
      .listen(port, '127.0.0.1');
    const before = settings().provider;
    settings().provider = { ...before, issuer };
    Object.assign(server.app.get(SchoolProvider), { found: undefined });
    try {
      const { url, session } = await come('owner');
      expect(session).toBeNull();
      expect(why(url)).toContain('did not confirm');
    } finally {
      settings().provider = before;
      forging.close();
    }
  });
});
