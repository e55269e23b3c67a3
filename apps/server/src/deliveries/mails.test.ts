/** Mails to a class: each once, with their own link; refused, put off and tried again; over a mail server that speaks SMTP. */
import type { Item } from '@zakuska/core';
import { Inbox, mailApp } from '../../../standins/src/mail/app.js';
import { Outbox } from '../mail/outbox.js';
import { settings } from '../platform/settings.js';
import { outside } from '../testing/pushes.js';
import { startServer, type TestServer } from '../testing/server.js';
import { makeWorld, type World } from '../testing/world.js';

const ITEMS: Item[] = [{ id: 'a', kind: 'true-false', stem: 'Ist Roggen ein Getreide und wächst er auf dem Feld?', points: 1, answer: true }];
interface Person {
  id: string;
  name: string;
  code: string;
  link: string;
  letter: { subject: string; text: string };
  mailed?: { state: string; problem?: string; at: string };
}
interface People {
  mails: boolean;
  people: Person[];
}

let inbox: Inbox;
let server: TestServer;
let world: World;
beforeAll(async () => {
  inbox = new Inbox(0);
  await inbox.open();
  process.env['SMTP_URL'] = inbox.url;
  process.env['MAIL_FROM'] = 'Saltmarsh <quiz@saltmarsh.example>';
  server = await startServer('zakuska_test_mails');
  world = await makeWorld(server, 'mails@saltmarsh.example');
});
afterAll(async () => {
  await server.stop();
  await inbox.close();
});
beforeEach(() => void inbox.mails.splice(0));

const members = (...addresses: string[]) => addresses.map((mail, i) => ({ name: `Learner ${i + 1}`, mail }));
async function quiz(people: object[], language = 'en'): Promise<string> {
  const made = await world.owner
    .post(`/api/v1/workspaces/${world.workspace}/classes`)
    .send({ name: `Class ${Math.random()}`, members: people })
    .expect(201);
  const set = await world.makeSet(ITEMS.map((i) => ({ ...i, language })));
  const published = await world.owner
    .post(`/api/v1/sets/${set}/deliveries`)
    .send({ rules: { enter: 'personal' }, classList: (made.body as { id: string }).id, title: 'Rye, week two' })
    .expect(201);
  return (published.body as { id: string }).id;
}
const write = async (id: string, body: object = {}, status = 200): Promise<People> =>
  (await world.owner.post(`/api/v1/deliveries/${id}/mails`).send(body).expect(status)).body as People;
const look = async (id: string): Promise<People> => (await world.owner.post(`/api/v1/deliveries/${id}/people`).expect(200)).body as People;
const states = ({ people }: People): (string | undefined)[] => people.map((p) => p.mailed?.state);
/** The post goes round, as if the waits between tries were over. What is just on its way (two minutes) is not sent a second time. */
async function post(): Promise<void> {
  await server.orm.em
    .fork()
    .getConnection()
    .execute(
      "update mail set next_at = now() where sent_at is null and problem is null and next_at not between now() + interval '100 seconds' and now() + interval '121 seconds'",
    );
  await server.app.get(Outbox).work();
}

test('each gets their own link and code, once; who has no address gets none', async () => {
  const id = await quiz(members('ada@saltmarsh.example', '', 'bela@saltmarsh.example'), 'de');
  expect((await look(id)).mails).toBe(true);
  expect(states(await write(id))).toEqual(['waiting', undefined, 'waiting']);
  // pressed twice: nobody is written to again
  await Promise.all([write(id), write(id)]);
  await post();
  const seen = await look(id);
  expect(states(seen)).toEqual(['sent', undefined, 'sent']);
  expect(Date.now() - Date.parse(seen.people[0]?.mailed?.at ?? '')).toBeLessThan(60_000);
  expect(inbox.mails).toHaveLength(2);
  const [ada] = seen.people;
  const hers = inbox.mails.find((m) => m.to.includes('ada@'));
  expect(hers).toMatchObject({ from: '"Saltmarsh" <quiz@saltmarsh.example>', subject: 'Rye, week two', text: ada?.letter.text });
  expect(hers?.text).toContain(ada?.link);
  expect(hers?.text).toContain(ada?.code);
  // whoever has a mail already is left; one who asks for it again is not
  await write(id);
  await post();
  expect(inbox.mails).toHaveLength(2);
  await write(id, { members: [ada?.id] });
  await post();
  expect(inbox.mails.map((m) => m.to.includes('ada@'))).toEqual([true, expect.anything(), expect.anything()]);
  expect(new Set(inbox.mails.map((m) => m.id)).size).toBe(3);
});

test('an address that is refused is told with the words of the mail server; one that is put off is tried again', async () => {
  const id = await quiz(members('nobody@saltmarsh.example', 'later@saltmarsh.example'));
  await write(id);
  await post();
  expect(states(await look(id))).toEqual(['failed', 'waiting']);
  await post();
  const seen = await look(id);
  expect(states(seen)).toEqual(['failed', 'sent']);
  expect(seen.people[0]?.mailed?.problem).toContain('No such mailbox here');
  // the address was mended, so it may be tried again
  expect(states(await write(id, { members: [seen.people[0]?.id] }))[0]).toBe('waiting');
});

test('a mail server that sends away for ever: after the last try a person is told', async () => {
  const id = await quiz(members('cleo@saltmarsh.example'));
  await write(id);
  inbox.away = 100;
  for (let i = 0; i < 12; i++) await post();
  inbox.away = 0;
  const [person] = (await look(id)).people;
  expect(person?.mailed).toMatchObject({ state: 'failed', problem: expect.stringContaining('Try again in a while') });
});

test('a name cannot add a line to the head of a mail', async () => {
  const id = await quiz([{ name: 'Dora\r\nBcc: all@saltmarsh.example', mail: 'dora@saltmarsh.example' }]);
  await write(id);
  await post();
  expect(inbox.mails.map((m) => m.subject)).toEqual(['Rye, week two']);
  expect(inbox.mails[0]?.to).not.toContain('all@saltmarsh.example>');
});

test('where no mail server is set up, that is said, and nothing is written down', async () => {
  const id = await quiz(members('emil@saltmarsh.example'));
  const { smtpUrl } = settings();
  settings().smtpUrl = '';
  try {
    expect((await look(id)).mails).toBe(false);
    await write(id, {}, 422);
    expect(states(await look(id))).toEqual([undefined]);
  } finally {
    settings().smtpUrl = smtpUrl;
  }
});

test('readers may not write to people, strangers do not find the quiz', async () => {
  const id = await quiz(members('fred@saltmarsh.example'));
  await server.agent().post(`/api/v1/deliveries/${id}/mails`).send({}).expect(401);
  await write(id, { members: ['no id'] }, 400);
});

test('the stand-in shows the mails that it took, as text', async () => {
  const service = await outside(() => mailApp(inbox));
  try {
    const id = await quiz([{ name: 'Gil <b>', mail: 'gil@saltmarsh.example' }]);
    await write(id);
    await post();
    const page = await (await fetch(service.url)).text();
    expect(page).toContain('Gil &lt;b&gt;');
    expect(((await (await fetch(`${service.url}/mails`)).json()) as object[]).length).toBe(1);
    expect((await fetch(`${service.url}/control`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: '{"away":-1}' })).status).toBe(400);
  } finally {
    await service.close();
  }
});
