/** Accounts: made by mail or invitation, mended, guarded by a second factor, given up; members and their roles; what is written down of it. */
import { type Item, newId } from '@zakuska/core';
import { TOTP, Secret } from 'otpauth';
import type { Agent } from 'supertest';
import { Inbox } from '../../../standins/src/mail/app.js';
import { Housekeeping } from '../housekeeping.js';
import { Outbox } from '../mail/outbox.js';
import { signIn, startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';
import { checkPassword } from './passwords.js';
import { afterCode } from './secondFactor.js';
import { encrypt } from '../platform/secrets.js';

const STRONG = 'seven loaves under a tin moon';
const ITEMS: Item[] = [{ id: 'a', kind: 'true-false', stem: 'Rye is a grain.', points: 1, answer: true }];

let inbox: Inbox;
let server: TestServer;
let world: World;
beforeAll(async () => {
  inbox = new Inbox(0);
  await inbox.open();
  process.env['SMTP_URL'] = inbox.url;
  process.env['MAIL_FROM'] = 'Saltmarsh <quiz@saltmarsh.example>';
  process.env['OPEN_SIGN_UP'] = 'yes';
  server = await startServer('zakuska_test_accounts');
  world = await makeWorld(server, 'owner@saltmarsh.example');
});
afterAll(async () => {
  await server.stop();
  await inbox.close();
});
beforeEach(async () => {
  inbox.mails.splice(0);
  await run('delete from limit_count');
});

const run = (text: string, params: unknown[] = []): Promise<Record<string, unknown>[]> => server.orm.em.fork().getConnection().execute(text, params);
const codeOf = (body: unknown): string => (body as { code: string }).code;
/** The link of the last mail to somebody. */
async function linkTo(email: string): Promise<string> {
  await server.app.get(Outbox).work();
  return /\/link\/(\S+)/.exec(inbox.mails.find((m) => m.to.includes(email))?.text ?? '')?.[1] ?? '';
}
async function signUp(email: string, name = 'Nell Ashby'): Promise<Agent> {
  await server.agent().post('/api/v1/links/sign-up').send({ email }).expect(202);
  const token = await linkTo(email);
  const agent = server.agent();
  const { body } = await agent.post(`/api/v1/links/${token}`).send({ name, password: STRONG }).expect(200);
  agent.set('x-csrf-token', (body as { session: { csrf: string } }).session.csrf);
  return agent;
}
/** Somebody in the workspace with a role, signed in. */
async function member(email: string, role: 'reader' | 'marker' | 'editor' | 'administrator' | 'owner'): Promise<{ id: string; agent: Agent }> {
  const id = await world.join(email, role);
  const agent = server.agent();
  await signIn(agent, email, 'pass word');
  return { id, agent };
}
const at = (path: string): string => `/api/v1/workspaces/${world.workspace}/${path}`;

describe('an account of one’s own', () => {
  test('is made by a link in a mail, with a workspace; the link is good once', async () => {
    const agent = await signUp('nell@saltmarsh.example');
    const { body } = await agent.get('/api/v1/session').expect(200);
    expect(body).toMatchObject({ name: 'Nell Ashby', email: 'nell@saltmarsh.example', workspaces: [{ name: 'Nell Ashby', role: 'owner' }] });
    expect((await agent.get('/api/v1/account').expect(200)).body).toMatchObject({ confirmed: true, secondFactor: false, workspaces: [{ fate: 'goes' }] });
    const token = await linkTo('nell@');
    const again = await server.agent().post(`/api/v1/links/${token}`).send({ name: 'X', password: STRONG }).expect(410);
    expect(codeOf(again.body)).toBe('link-used');
    expect(codeOf((await server.agent().get('/api/v1/links/never').expect(404)).body)).toBe('link-unknown');
  });

  test('nobody learns from the answer or its time whether an address is known', async () => {
    await signUp('known@saltmarsh.example');
    const ask = async (what: string, email: string): Promise<{ status: number; body: unknown; ms: number }> => {
      const began = performance.now();
      const r = await server.agent().post(`/api/v1/links/${what}`).send({ email });
      return { status: r.status, body: r.body, ms: performance.now() - began };
    };
    for (const what of ['forgotten', 'sign-up']) {
      const [known, unknown] = [await ask(what, 'known@saltmarsh.example'), await ask(what, `not-${what}@saltmarsh.example`)];
      expect({ ...known, ms: 0 }).toEqual({ ...unknown, ms: 0 });
      // both wait as long at least, whatever there was to do
      for (const { ms } of [known, unknown]) expect(ms).toBeGreaterThan(390);
    }
    await server.app.get(Outbox).work();
    // who signs up twice is told in the mail, not on the page
    expect(inbox.mails.filter((m) => m.to.includes('known@')).map((m) => m.subject)).toEqual(
      expect.arrayContaining(['A new password for Zakuska', 'A new password for Zakuska']),
    );
    expect(inbox.mails.filter((m) => m.to.includes('not-forgotten@'))).toEqual([]);
  });

  test('a new password by mail ends all sessions; the links before the last are void, and nothing readable lies in the database', async () => {
    const agent = await signUp('forgets@saltmarsh.example');
    await server.agent().post('/api/v1/links/forgotten').send({ email: 'Forgets@Saltmarsh.example ' }).expect(202);
    const [kept] = await run(`select text from mail where subject like 'A new password%' order by created_at desc limit 1`);
    expect(String(kept?.['text'])).not.toContain('/link/');
    const first = await linkTo('forgets@');
    await server.agent().post('/api/v1/links/forgotten').send({ email: 'forgets@saltmarsh.example' }).expect(202);
    const second = await linkTo('forgets@');
    expect(codeOf((await server.agent().get(`/api/v1/links/${first}`)).body)).toBe('link-unknown');
    const easy = await server.agent().post(`/api/v1/links/${second}`).send({ password: 'password123' }).expect(422);
    expect(codeOf(easy.body)).toBe('password-easy');
    // what was refused did not use the link up
    await server.agent().post(`/api/v1/links/${second}`).send({ password: 'another tin of quiet rye' }).expect(200);
    expect(codeOf((await server.agent().get(`/api/v1/links/${second}`).expect(410)).body)).toBe('link-used');
    await agent.get('/api/v1/session').expect(401);
    await signIn(server.agent(), 'forgets@saltmarsh.example', 'another tin of quiet rye');
  });

  test('of two who follow a link at the same moment one is let in', async () => {
    await server.agent().post('/api/v1/links/sign-up').send({ email: 'twice@saltmarsh.example' }).expect(202);
    const token = await linkTo('twice@');
    const all = await Promise.all(Array.from({ length: 5 }, () => server.agent().post(`/api/v1/links/${token}`).send({ name: 'Twice', password: STRONG })));
    expect(all.map((r) => r.status).sort()).toEqual([200, 410, 410, 410, 410]);
  });

  test('links run out, and are removed in the end', async () => {
    await server.agent().post('/api/v1/links/sign-up').send({ email: 'late@saltmarsh.example' }).expect(202);
    const token = await linkTo('late@');
    await run(`update account_link set expires_at = now() - interval '1 minute' where email = 'late@saltmarsh.example'`);
    expect(codeOf((await server.agent().post(`/api/v1/links/${token}`).send({ name: 'L', password: STRONG }).expect(410)).body)).toBe('link-over');
    await run(`update account_link set expires_at = now() - interval '31 days' where email = 'late@saltmarsh.example'`);
    await server.app.get(Housekeeping).tidy();
    expect(await run(`select 1 from account_link where email = 'late@saltmarsh.example'`)).toEqual([]);
  });

  test('the password is asked for again before it, the address or the account changes', async () => {
    const agent = await signUp('careful@saltmarsh.example');
    const other = server.agent();
    await signIn(other, 'careful@saltmarsh.example', STRONG);
    await agent.put('/api/v1/account/password').send({ password: 'wrong', next: 'a brand new quiet kettle' }).expect(403);
    await agent.put('/api/v1/account/password').send({ password: STRONG, next: 'careful@saltmarsh' }).expect(422);
    await agent.put('/api/v1/account/password').send({ password: STRONG, next: 'a brand new quiet kettle' }).expect(204);
    // this browser stays, the other is out
    await agent.get('/api/v1/session').expect(200);
    await other.get('/api/v1/session').expect(401);
    // an address counts once its link was followed
    await agent.put('/api/v1/account/address').send({ password: 'a brand new quiet kettle', email: 'moved@saltmarsh.example' }).expect(200);
    expect((await agent.get('/api/v1/account')).body).toMatchObject({ email: 'careful@saltmarsh.example' });
    const token = await linkTo('moved@');
    await server.agent().post(`/api/v1/links/${token}`).send({}).expect(200);
    expect((await agent.get('/api/v1/account')).body).toMatchObject({ email: 'moved@saltmarsh.example', confirmed: true });
    for (let i = 0; i < 6; i++) await agent.post('/api/v1/account/end').send({ password: 'guess' });
    await agent.post('/api/v1/account/end').send({ password: 'guess' }).expect(429);
  });

  test('sessions are listed, ended one by one and all others at once; of somebody else none', async () => {
    const agent = await signUp('many@saltmarsh.example');
    const stranger = await signUp('stranger@saltmarsh.example');
    for (let i = 0; i < 3; i++)
      await server.agent().post('/api/v1/session').set('user-agent', `Browser ${i}`).send({ email: 'many@saltmarsh.example', password: STRONG }).expect(201);
    interface Open {
      sessions: { id: string; agent: string; here: boolean }[];
    }
    const open = async (): Promise<Open['sessions']> => ((await agent.get('/api/v1/account').expect(200)).body as Open).sessions;
    const all = await open();
    expect(all).toHaveLength(4);
    expect(all.filter((s) => s.here)).toHaveLength(1);
    const one = all.find((s) => s.agent === 'Browser 1');
    await stranger.delete(`/api/v1/account/sessions/${one?.id ?? ''}`).expect(404);
    await agent.delete(`/api/v1/account/sessions/${one?.id ?? ''}`).expect(204);
    expect((await open()).map((s) => s.agent)).not.toContain('Browser 1');
    await agent.delete('/api/v1/account/sessions').expect(204);
    expect(await open()).toHaveLength(1);
  });
});

describe('passwords', () => {
  // ASVS 5.0, 6.2.1 and 6.2.4 (from memory): length, and common ones refused; 6.2.5: nothing is said of kinds of signs
  test.each(['short', 'password123', 'qwertyuiop', '1234567890', 'nell.ashby@', 'aaaaaaaaaaaa'])('%s is refused', (p) => {
    expect(() => checkPassword(p, ['Nell Ashby', 'nell.ashby@saltmarsh.example'])).toThrow();
  });
  test.each([STRONG, 'ÄÖÜ кухня 鍋 pot', 'x7!kQ2#vLp9'])('%s is taken', (p) => {
    expect(() => checkPassword(p, ['Nell Ashby'])).not.toThrow();
  });
});

describe('the second factor', () => {
  // RFC 6238, appendix B: the secret "12345678901234567890", eight digits there, of which the last six are ours
  test.each([
    [59, '287082'],
    [1111111109, '081804'],
    [1111111111, '050471'],
    [1234567890, '005924'],
    [2000000000, '279037'],
    [20000000000, '353130'],
  ])('at %i s the code of the standard is right, once', (seconds, code) => {
    const f = { sealed: encrypt(Secret.fromLatin1('12345678901234567890').base32), on: true, step: 0, spare: [] };
    const after = afterCode(f, code, seconds * 1000);
    expect(after).not.toBeNull();
    expect(after && afterCode(after, code, seconds * 1000)).toBeNull();
    expect(afterCode(f, code, (seconds + 90) * 1000)).toBeNull();
  });

  test('is asked for beside the password, also after a reset; spare codes are good once', async () => {
    const agent = await signUp('factor@saltmarsh.example');
    const { body } = await agent.post('/api/v1/account/second-factor').send({ password: STRONG }).expect(201);
    const { secret, picture } = body as { secret: string; picture: string };
    expect(picture).toContain('<svg');
    // before a first code was right nothing is asked for
    await signIn(server.agent(), 'factor@saltmarsh.example', STRONG);
    await agent.put('/api/v1/account/second-factor').send({ code: '000000' }).expect(422);
    const code = (ahead = 0): string => new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: Date.now() + ahead * 30_000 });
    const { codes } = (await agent.put('/api/v1/account/second-factor').send({ code: code() }).expect(200)).body as { codes: string[] };
    expect(new Set(codes).size).toBe(10);
    const come = (more: object) =>
      server
        .agent()
        .post('/api/v1/session')
        .send({ email: 'factor@saltmarsh.example', password: STRONG, ...more });
    expect(codeOf((await come({}).expect(401)).body)).toBe('code-needed');
    expect(codeOf((await come({ code: code() }).expect(401)).body)).toBe('wrong-code');
    const two = await Promise.all([come({ code: code(1) }), come({ code: code(1) })]);
    expect(two.map((r) => r.status).sort()).toEqual([201, 401]);
    const [spare = ''] = codes;
    await come({ code: spare.toUpperCase().replace('-', ' ') }).expect(201);
    await come({ code: spare }).expect(401);
    await run('delete from limit_count');
    await server.agent().post('/api/v1/links/forgotten').send({ email: 'factor@saltmarsh.example' }).expect(202);
    const token = await linkTo('factor@');
    const reset = await server.agent().post(`/api/v1/links/${token}`).send({ password: 'another tin of quiet rye' }).expect(200);
    expect(reset.body).toEqual({});
    expect(reset.headers['set-cookie']).toBeUndefined();
  });
});

describe('members', () => {
  const invite = async (agent: Agent, emails: string[], role: string, status = 201, id = newId()): Promise<{ invited: { email: string; link?: string }[] }> =>
    (await agent.post(at('invitations')).send({ id, emails, role }).expect(status)).body as { invited: { email: string; link?: string }[] };
  const tokenOf = (link = ''): string => link.split('/').pop() ?? '';

  test('come by invitation: with a new account, or with theirs; a member is left as they are', async () => {
    const { invited } = await invite(world.owner, ['New@saltmarsh.example', 'new@saltmarsh.example', 'owner@saltmarsh.example'], 'marker');
    expect(invited).toEqual([{ email: 'new@saltmarsh.example', link: expect.stringContaining('/link/') }, { email: 'owner@saltmarsh.example' }]);
    expect((await world.owner.get(at('invitations'))).body).toMatchObject([{ email: 'new@saltmarsh.example', role: 'marker', over: false }]);
    const token = tokenOf(invited[0]?.link);
    expect((await server.agent().get(`/api/v1/links/${token}`).expect(200)).body).toMatchObject({ purpose: 'invitation', account: false, role: 'marker' });
    const agent = server.agent();
    const { body } = await agent.post(`/api/v1/links/${token}`).send({ name: 'New', password: STRONG }).expect(200);
    expect((body as { session: { workspaces: object[] } }).session.workspaces).toEqual([{ id: world.workspace, name: expect.any(String), role: 'marker' }]);
    expect((await world.owner.get(at('invitations'))).body).toEqual([]);

    const has = await signUp('has@saltmarsh.example');
    const next = tokenOf((await invite(world.owner, ['has@saltmarsh.example'], 'editor')).invited[0]?.link);
    expect(codeOf((await server.agent().post(`/api/v1/links/${next}`).send({ name: 'H', password: STRONG }).expect(409)).body)).toBe('sign-in-first');
    await has.post(`/api/v1/links/${next}/join`).send({}).expect(200);
    const third = tokenOf((await invite(world.owner, ['elsewhere@saltmarsh.example'], 'reader')).invited[0]?.link);
    expect(codeOf((await has.post(`/api/v1/links/${third}/join`).send({}).expect(409)).body)).toBe('member-already');
  });

  test('an invitation that is asked for again, as when the answer was lost, is the same one and goes out by one mail', async () => {
    const id = newId();
    const asked = (): ReturnType<typeof invite> => invite(world.owner, ['twice@saltmarsh.example', 'owner@saltmarsh.example'], 'reader', 201, id);
    const [first, beside] = await Promise.all([asked(), asked()]);
    expect(beside).toEqual(first);
    expect(await asked()).toEqual(first);
    await server.app.get(Outbox).work();
    expect(inbox.mails.filter((m) => m.to.includes('twice@'))).toHaveLength(1);
    // asked for anew it is another, and the one before is void
    const { invited } = await invite(world.owner, ['twice@saltmarsh.example'], 'reader');
    expect(invited[0]?.link).not.toBe(first.invited[0]?.link);
    await server
      .agent()
      .get(`/api/v1/links/${tokenOf(first.invited[0]?.link)}`)
      .expect(404);
    const { events } = (await world.owner.get(at('audit')).query({ what: 'invited', words: 'twice@' })).body as { events: object[] };
    expect(events).toHaveLength(2);
  });

  test.each([
    ['fr', 'Invitation : ', 'vous invite dans «'],
    ['de-CH, en;q=0.5', 'Einladung: ', 'lädt Sie ein in „'],
    ['ja', 'Invitation to ', 'invites you to “'],
  ])('are written to in the language of who invites: %s', async (said, subject, words) => {
    const email = `in-${said.slice(0, 2)}@saltmarsh.example`;
    await world.owner
      .post(at('invitations'))
      .set('accept-language', said)
      .send({ id: newId(), emails: [email], role: 'reader' })
      .expect(201);
    await server.app.get(Outbox).work();
    const mail = inbox.mails.find((m) => m.to.includes(email));
    expect([mail?.subject.startsWith(subject), mail?.text.includes(words), /\/link\/\S{30}/.test(mail?.text ?? '')]).toEqual([true, true, true]);
  });

  test('two links to one address that are followed at the same moment make one account', async () => {
    const { invited } = await invite(world.owner, ['both@saltmarsh.example'], 'reader');
    await server.agent().post('/api/v1/links/sign-up').send({ email: 'both@saltmarsh.example' }).expect(202);
    await server.app.get(Outbox).work();
    const mail = inbox.mails.find((m) => m.to.includes('both@') && m.subject.startsWith('Your account'));
    const tokens = [tokenOf(invited[0]?.link), /\/link\/(\S+)/.exec(mail?.text ?? '')?.[1] ?? ''];
    const all = await Promise.all(tokens.map((t) => server.agent().post(`/api/v1/links/${t}`).send({ name: 'Both', password: STRONG })));
    expect(all.map((r) => r.status).sort()).toEqual([200, 409]);
    expect(all.map((r) => (r.body as { code?: string }).code)).toContain('sign-in-first');
  });

  test('an invitation that was withdrawn leads nowhere', async () => {
    const { invited } = await invite(world.owner, ['wrong@saltmarsh.example'], 'reader');
    const all = (await world.owner.get(at('invitations'))).body as { id: string; email: string }[];
    const id = all.find((i) => i.email === 'wrong@saltmarsh.example')?.id ?? '';
    await world.owner.delete(at(`invitations/${id}`)).expect(204);
    await server
      .agent()
      .get(`/api/v1/links/${tokenOf(invited[0]?.link)}`)
      .expect(404);
    await world.owner.delete(at(`invitations/${id}`)).expect(404);
  });

  test('nobody gives a role above their own, or changes who is above them', async () => {
    const admin = await member('admin@saltmarsh.example', 'administrator');
    const owner = await member('second@saltmarsh.example', 'owner');
    await invite(admin.agent, ['x@saltmarsh.example'], 'owner', 403);
    await admin.agent
      .put(at(`members/${owner.id}`))
      .send({ role: 'reader' })
      .expect(403);
    await admin.agent.delete(at(`members/${owner.id}`)).expect(403);
    await admin.agent
      .put(at(`members/${admin.id}`))
      .send({ role: 'owner' })
      .expect(403);
    await owner.agent
      .put(at(`members/${admin.id}`))
      .send({ role: 'owner' })
      .expect(204);
    await owner.agent
      .put(at(`members/${admin.id}`))
      .send({ role: 'editor' })
      .expect(204);
    await admin.agent
      .post(at('invitations'))
      .send({ id: newId(), emails: ['y@saltmarsh.example'], role: 'reader' })
      .expect(403);
    await world.owner.delete(at(`members/${owner.id}`)).expect(204);
    await world.owner.delete(at(`members/${admin.id}`)).expect(204);
    await owner.agent.get(at('members')).expect(404);
  });

  test('the last owner stays, of two who leave at the same moment one does', async () => {
    const other = await member('third@saltmarsh.example', 'owner');
    const me = ((await world.owner.get('/api/v1/session')).body as { accountId: string }).accountId;
    const both = await Promise.all([
      world.owner.put(at(`members/${me}`)).send({ role: 'editor' }),
      other.agent.put(at(`members/${other.id}`)).send({ role: 'editor' }),
    ]);
    expect(both.map((r) => r.status).sort()).toEqual([204, 409]);
    await run(`update membership set role = 'owner' where account_id in (?, ?)`, [me, other.id]);
    await world.owner.delete(at(`members/${other.id}`)).expect(204);
    expect(codeOf((await world.owner.delete(at('membership')).expect(409)).body)).toBe('last-owner');
    expect(codeOf((await world.owner.delete(at(`members/${me}`)).expect(409)).body)).toBe('last-owner');
  });

  test('sets of who is removed go to whom is named', async () => {
    const leaver = await member('leaver@saltmarsh.example', 'editor');
    const heir = await member('heir@saltmarsh.example', 'editor');
    const { id } = (await leaver.agent.post(at('sets')).send({ title: 'Rye' }).expect(201)).body as { id: string };
    expect(
      codeOf(
        (
          await world.owner
            .delete(at(`members/${leaver.id}`))
            .query({ to: leaver.id })
            .expect(422)
        ).body,
      ),
    ).toBe('no-heir');
    await world.owner
      .delete(at(`members/${leaver.id}`))
      .query({ to: heir.id })
      .expect(204);
    expect((await heir.agent.get(`/api/v1/sets/${id}`).expect(200)).body).toMatchObject({ role: 'owner' });
    await leaver.agent.get(`/api/v1/sets/${id}`).expect(404);
  });

  test('a marker marks answers and changes nothing else', async () => {
    const { agent } = await member('marker@saltmarsh.example', 'marker');
    const { id, set } = await world.publish(ITEMS, 'score');
    await agent.get(`/api/v1/deliveries/${id}/results`).expect(200);
    await agent
      .post(`/api/v1/deliveries/${id}/decisions`)
      .send({ decisions: [{ type: 'leave-out', item: 'a' }] })
      .expect(200);
    await agent.patch(`/api/v1/deliveries/${id}`).send({ open: false }).expect(403);
    await agent.post(`/api/v1/sets/${set}/operations`).send({ base: 1, operations: [] }).expect(403);
    await agent.post(at('sets')).send({ title: 'x' }).expect(403);
  });

  test('who gives the account up leaves their sets and takes their name; workspaces of nobody else go', async () => {
    const { agent } = await member('goes@saltmarsh.example', 'editor');
    await agent.patch('/api/v1/account').send({ name: 'Goes Away' }).expect(200);
    const { id } = (await agent.post(at('sets')).send({ title: 'Barley' }).expect(201)).body as { id: string };
    await agent
      .post(`/api/v1/sets/${id}/operations`)
      .send({ base: 0, operations: [{ id: '018f4e3a-0000-7000-8000-000000000001', operation: { type: 'insert', at: 0, items: ITEMS } }] })
      .expect(200);
    const { body } = await agent.post('/api/v1/workspaces').send({ name: 'Mine alone' }).expect(201);
    const alone = (body as { workspaces: { id: string; name: string }[] }).workspaces.find((w) => w.name === 'Mine alone');
    expect((await agent.get('/api/v1/account')).body).toMatchObject({ workspaces: [{ fate: 'goes' }, { fate: 'stays', sets: 1 }] });
    await agent.post('/api/v1/account/end').send({ password: 'pass word' }).expect(204);
    await agent.get('/api/v1/session').expect(401);
    expect(await run('select 1 from workspace where id = ?', [alone?.id])).toEqual([]);
    expect((await world.owner.get(`/api/v1/sets/${id}`).expect(200)).body).toMatchObject({ role: 'owner' });
    expect((await world.owner.get(`/api/v1/sets/${id}/history`).expect(200)).body).toMatchObject([{ by: 'an account that is gone' }]);
    expect(JSON.stringify(await run('select * from account'))).not.toContain('Goes Away');
  });

  test('nobody else can be locked out by leaving: the last owner of others is held', async () => {
    const { agent } = await member('holder@saltmarsh.example', 'reader');
    const { body } = await agent.post('/api/v1/workspaces').send({ name: 'Ours' }).expect(201);
    const ours = (body as { workspaces: { id: string; name: string }[] }).workspaces.find((w) => w.name === 'Ours');
    await run(`insert into membership (account_id, workspace_id, role) select id, ?, 'editor' from account where email = 'owner@saltmarsh.example'`, [
      ours?.id,
    ]);
    expect(codeOf((await agent.post('/api/v1/account/end').send({ password: 'pass word' }).expect(409)).body)).toBe('last-owner');
    await agent
      .delete(`/api/v1/workspaces/${ours?.id ?? ''}`)
      .query({ name: 'ours' })
      .expect(422);
    await agent
      .delete(`/api/v1/workspaces/${ours?.id ?? ''}`)
      .query({ name: 'Ours' })
      .expect(200);
    await agent.post('/api/v1/account/end').send({ password: 'pass word' }).expect(204);
  });
});

describe('what happened', () => {
  interface Page {
    events: { what: string; by: string; about: Record<string, string> }[];
    next?: string;
  }
  const look = async (query: object = {}): Promise<Page> => (await world.owner.get(at('audit')).query(query).expect(200)).body as Page;

  test('sign-ins, roles, sharing, publishing and deleting stand there, by whom; administrators see it, editors do not', async () => {
    const { id, agent } = await member('watched@saltmarsh.example', 'editor');
    await server.agent().post('/api/v1/session').send({ email: 'watched@saltmarsh.example', password: 'guessed' }).expect(401);
    await agent.get(at('audit')).expect(403);
    await world.owner
      .put(at(`members/${id}`))
      .send({ role: 'marker' })
      .expect(204);
    const { set } = await world.publish(ITEMS, 'score', { title: 'Rye, week three' });
    await world.owner.put(`/api/v1/sets/${set}/sharing`).send({ restricted: true, shares: [] }).expect(200);
    await world.owner.post(`/api/v1/sets/${set}/files`).send({ name: 'rye.gift' }).expect(204);
    await world.owner.delete(`/api/v1/sets/${set}`).expect(204);
    await world.owner.delete(`/api/v1/bin/${set}`).expect(204);
    const { events } = await look();
    expect(events.slice(0, 8).map((e) => e.what)).toEqual([
      'set deleted',
      'set put into the bin',
      'file taken',
      'sharing changed',
      'quiz published',
      'role changed',
      'sign-in refused',
      'signed in',
    ]);
    expect(events[5]).toMatchObject({ by: 'owner@saltmarsh.example', about: { who: 'watched@saltmarsh.example', from: 'editor', to: 'marker' } });
    expect((await look({ what: 'role changed', words: 'WATCHED@' })).events).toHaveLength(1);
    expect((await look({ account: id })).events.map((e) => e.what)).toEqual(['sign-in refused', 'signed in']);
    expect((await look({ to: '2020-01-01' })).events).toEqual([]);
  });

  test('goes on page by page and as a table, where no cell becomes a formula', async () => {
    await run(
      `insert into audit_event (workspace_id, what, about) select ?, 'file taken', jsonb_build_object('file', '=cmd|' || n) from generate_series(1, 230) n`,
      [world.workspace],
    );
    const pages: Page[] = [];
    for (let before: string | undefined, n = 0; n < 20; n++) {
      const page = await look({ what: 'file taken', words: 'cmd', ...(before && { before }) });
      pages.push(page);
      before = page.next;
      if (!before) break;
    }
    expect(pages.map((p) => p.events.length)).toEqual([100, 100, 30]);
    const { text } = await world.owner
      .get(at('audit.csv'))
      .query({ words: 'cmd' })
      .expect(200)
      .expect('content-type', /text\/csv/);
    expect(text.split('\r\n').filter(Boolean)).toHaveLength(231);
    expect(text).not.toMatch(/(?:^|,)"?=/m);
    await run(`update audit_event set at = now() - interval '14 months' where what = 'file taken'`);
    await server.app.get(Housekeeping).tidy();
    expect((await look({ what: 'file taken' })).events).toEqual([]);
  });
});
