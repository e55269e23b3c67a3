/** What is kept of people: found wherever it lies, deleted for good with a record that names nobody, and gone when its time is over. */
import { type Item, newId } from '@zakuska/core';
import { countAnswers } from '../bank/upkeep.js';
import { signIn, startServer, type TestServer } from '../testing/server.js';
import { handIn, makeWorld, type World } from '../testing/world.js';
import { eraseOver } from './erasing.js';

const ITEMS = [
  { id: 'rye', kind: 'true-false', stem: 'Rye is a grain.', points: 2, answer: true },
  { id: 'why', kind: 'essay', stem: 'Why rest the dough?', points: 5 },
] as unknown as Item[];

let server: TestServer;
let world: World;
beforeAll(async () => {
  server = await startServer('zakuska_test_people');
  world = await makeWorld(server, 'people@saltmarsh.example');
});
afterAll(() => server.stop());

interface Found {
  kind: string;
  id: string;
  name: string;
  place: string;
}
const at = (path: string): string => `/api/v1/workspaces/${world.workspace}/${path}`;
const find = async (words: string, who = world.owner): Promise<Found[]> => (await who.get(at('people')).query({ words }).expect(200)).body as Found[];
const erase = async (records: Pick<Found, 'kind' | 'id'>[], reference = '', who = world.owner) =>
  (
    await who
      .post(at('people/erase'))
      .send({ records: records.map(({ kind, id }) => ({ kind, id })), reference })
      .expect(200)
  ).body as object[];
const run = (statement: string, params: unknown[] = []): Promise<Record<string, unknown>[]> =>
  server.orm.em.fork().getConnection().execute(statement, params, 'all');
const answer = async (code: string, name: string, truth = true): Promise<string> => (await handIn(server, code, name, { rye: { truth } })).id;
const names = async (delivery: string): Promise<string[]> =>
  ((await world.owner.get(`/api/v1/deliveries/${delivery}/results`).expect(200)).body as { attempts: { name: string }[] }).attempts.map((a) => a.name).sort();

test('somebody is found in answers, tables, classes and mails; what is ticked goes for good, with a record that names nobody', async () => {
  const { id, code, set } = await world.publish(ITEMS, 'answers');
  const attempt = await answer(code, 'Fenna Dijk');
  await answer(code, 'Otto Fenn');
  await world.owner
    .post(`/api/v1/deliveries/${id}/decisions`)
    .send({ decisions: [{ type: 'hand', item: 'why', attempt, points: 3, comment: 'Fenna, say why.' }] })
    .expect(200);
  const table = newId();
  const people = [
    { name: 'Fenna Dijk', mail: 'fenna@saltmarsh.example', responses: { rye: { truth: true } } },
    { name: 'Ida', responses: { rye: { truth: false } } },
  ];
  await world.owner.post(`/api/v1/sets/${set}/tables`).send({ id: table, title: 'From paper', items: ITEMS, people }).expect(201);
  await world.owner
    .post(at('classes'))
    .send({ name: 'Year 8', members: [{ name: 'Fenna Dijk', mail: 'fenna@saltmarsh.example', number: '4711' }, { name: 'Ida' }] })
    .expect(201);
  await run(
    `insert into mail (id, name, address, subject, text, delivery_id) values (?, 'Fenna Dijk', 'fenna@saltmarsh.example', 'Your quiz', 'Dear Fenna', ?)`,
    [newId(), id],
  );

  expect((await find('fenna dijk')).map((f) => f.kind).sort()).toEqual(['answers', 'fetched', 'listed', 'written']);
  expect((await find('FENN')).map((f) => f.name)).toContain('Otto Fenn');
  expect((await find('4711')).map((f) => f.kind)).toEqual(['listed']);
  expect((await find('fenna@saltmarsh.example')).length).toBe(3);
  expect((await find('471')).length).toBe(0);
  await world.owner.get(at('people')).query({ words: 'F' }).expect(400);

  const erasures = await erase(await find('fenna dijk'), 'Letter of 12 November');
  expect(erasures).toMatchObject([
    { by: 'people@saltmarsh.example', cause: 'asked', reference: 'Letter of 12 November', removed: { answers: 1, fetched: 1, listed: 1, written: 1 } },
  ]);
  expect(await find('fenna')).toEqual([]);
  expect(await names(id)).toEqual(['Otto Fenn']);
  // nowhere in the database is the name left, whatever table or column
  const tables = (await run(`select table_name as name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE'`)).map((t) =>
    String(t['name']),
  );
  for (const name of tables) expect([name, await run(`select 1 as found from "${name}" t where t::text ilike '%fenna%'`)]).toEqual([name, []]);
  // named again, there is nothing to delete and nothing to write down
  expect(await erase([{ kind: 'answers', id: attempt }])).toHaveLength(1);
});

test('how many answered is told without those who are gone', async () => {
  const { id, code, set } = await world.publish(ITEMS, 'answers');
  await answer(code, 'Ada', true);
  await answer(code, 'Ben', false);
  await countAnswers(server.orm.em.fork(), set);
  const figures = async () => (await run('select answers, share from set_item where set_id = ? and id = ?', [set, 'rye']))[0];
  expect(await figures()).toEqual({ answers: 2, share: 0.5 });
  await erase((await find('Ben')).filter((f) => f.kind === 'answers'));
  await countAnswers(server.orm.em.fork());
  expect(await figures()).toEqual({ answers: 1, share: 1 });
  const list = (await world.owner.get(`/api/v1/sets/${set}/deliveries`).expect(200)).body as { id: string; responses: number }[];
  expect(list.find((d) => d.id === id)?.responses).toBe(1);
});

test('who may only read deletes nothing; what stands in a closed set is found by nobody who may not change it', async () => {
  const { code, set } = await world.publish(ITEMS, 'answers');
  await answer(code, 'Gustav Closed');
  const reader = server.agent();
  await world.join('reads@saltmarsh.example', 'reader');
  await signIn(reader, 'reads@saltmarsh.example', 'pass word');
  await reader.get(at('people')).query({ words: 'Gustav' }).expect(403);
  const editor = server.agent();
  await world.join('edits@saltmarsh.example', 'editor');
  await signIn(editor, 'edits@saltmarsh.example', 'pass word');
  const [found] = await find('Gustav', editor);
  expect(found?.kind).toBe('answers');
  await run('update quiz_set set restricted = true where id = ?', [set]);
  expect(await find('Gustav', editor)).toEqual([]);
  await erase([found as Found], '', editor);
  expect(await find('Gustav')).toHaveLength(1);
  // another workspace neither
  const other = await makeWorld(server, 'elsewhere@saltmarsh.example');
  await other.owner
    .post(at('people/erase'))
    .send({ records: [{ kind: 'answers', id: found?.id }], reference: '' })
    .expect(404);
  const own = `/api/v1/workspaces/${other.workspace}/people`;
  expect((await other.owner.get(own).query({ words: 'Gustav' }).expect(200)).body).toEqual([]);
  await other.owner
    .post(`${own}/erase`)
    .send({ records: [{ kind: 'answers', id: found?.id }], reference: '' })
    .expect(200);
  expect(await find('Gustav')).toHaveLength(1);
});

test('answers whose time is over go; how the items did stays; the quiz is closed', async () => {
  const { id, code, set } = await world.publish(ITEMS, 'answers');
  await answer(code, 'Early Bird', false);
  await countAnswers(server.orm.em.fork(), set);
  await run(`update attempt set submitted_at = now() - interval '7 months' where delivery_id = ?`, [id]);
  await answer(code, 'Late Comer', true);
  expect((await world.owner.put(at('keeping')).send({ months: 6 }).expect(200)).body).toEqual({ months: 6 });
  expect((await world.owner.get(at('keeping')).expect(200)).body).toEqual({ months: 6 });
  const tidy = () => Promise.all([eraseOver(server.orm.em.fork()), eraseOver(server.orm.em.fork())]);
  await tidy();
  expect(await names(id)).toEqual(['Late Comer']);
  await countAnswers(server.orm.em.fork());
  const figures = async () => (await run('select answers, share from set_item where set_id = ? and id = ?', [set, 'rye']))[0];
  expect(await figures()).toEqual({ answers: 2, share: 0.5 });
  const [last] = (await world.owner.get(at('erasures')).expect(200)).body as object[];
  expect(last).toMatchObject({ by: '', cause: 'time', removed: { answers: 1 } });

  const path = `/api/v1/deliveries/${id}/keeping`;
  await world.owner.put(path).send({ until: '2020-01-01T00:00:00Z' }).expect(422);
  const until = new Date(Date.now() + 864e5).toISOString();
  expect((await world.owner.put(path).send({ until }).expect(200)).body).toEqual({ until });
  await tidy();
  expect(await names(id)).toEqual(['Late Comer']);
  await run(`update delivery set keep_until = now() - interval '1 minute' where id = ?`, [id]);
  await tidy();
  expect(await names(id)).toEqual([]);
  await server.agent().post(`/api/v1/take/${code}/attempts`).send({ id: newId(), token: newId(), name: 'Nobody' }).expect(403);
  await countAnswers(server.orm.em.fork());
  expect(await figures()).toEqual({ answers: 2, share: 0.5 });
  await world.owner.put(at('keeping')).send({ months: null }).expect(200);
});

test('a table is kept from the day it was brought, whatever days stand in it', async () => {
  const set = await world.makeSet([]);
  const table = newId();
  const people = [{ name: 'Hanna', at: '2019-05-01T09:00:00Z', responses: { rye: { truth: true } } }];
  await world.owner.post(`/api/v1/sets/${set}/tables`).send({ id: table, title: 'Old paper', items: ITEMS, people }).expect(201);
  await world.owner.put(at('keeping')).send({ months: 1 }).expect(200);
  await eraseOver(server.orm.em.fork());
  expect((await find('Hanna')).map((f) => f.kind)).toEqual(['fetched']);
  await run(`update placement set created_at = now() - interval '2 months' where id = ?`, [table]);
  await eraseOver(server.orm.em.fork());
  expect(await find('Hanna')).toEqual([]);
  await world.owner.put(at('keeping')).send({ months: null }).expect(200);
});
