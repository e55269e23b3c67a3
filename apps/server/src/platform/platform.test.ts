import { chmodSync, mkdtempSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { jest } from '@jest/globals';
import { type ArgumentsHost, Logger } from '@nestjs/common';
import { MikroORM } from '@mikro-orm/postgresql';
import { Migrator } from '@mikro-orm/migrations';
import { entities } from '../app.js';
import { Account, Workspace } from '../accounts/entities.js';
import { loadDemo } from '../demo/load.js';
import { migrationsList } from '../migrations/index.js';
import { freshDatabase } from '../testing/server.js';
import { databaseThere, migrate } from './migrate.js';
import { ProblemFilter } from './problem.js';
import { checkedSecret, secretIn } from './secretFile.js';
import { safeToLog } from './safeToLog.js';

const open = (clientUrl: string): Promise<MikroORM> =>
  MikroORM.init({ clientUrl, entities, extensions: [Migrator], migrations: { migrationsList, snapshot: false, silent: true }, connect: false });

test('a secret is made once, read by its account only, and a known or short one is refused', () => {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'zakuska-')), 'deep/secret');
  const secret = secretIn(file);
  expect(secret.length).toBeGreaterThanOrEqual(43);
  expect(secretIn(file)).toBe(secret);
  expect(statSync(file).mode & 0o777).toBe(0o600);
  chmodSync(file, 0o644);
  secretIn(file);
  expect(statSync(file).mode & 0o077).toBe(0);
  for (const known of ['only for development: set ZAKUSKA_SECRET', 'ChangeMe', 'secret']) expect(() => checkedSecret(known, 'It')).toThrow(/everybody knows/);
  expect(() => checkedSecret('0123456789', 'It')).toThrow(/too short/);
  writeFileSync(file, 'changeme');
  expect(() => secretIn(file)).toThrow(/everybody knows/);
  expect(readFileSync(file, 'utf8')).toBe('changeme');
});

test('several servers that start on an empty database at once migrate it one after the other; what leads to another row has an index', async () => {
  const url = freshDatabase('zakuska_test_migrate');
  const orms = await Promise.all([open(url), open(url), open(url), open(url)]);
  try {
    const ran = await Promise.all(orms.map(migrate));
    expect(ran.sort()).toEqual([0, 0, 0, migrationsList.length]);
    // PostgreSQL, 5.5.5 “Foreign Keys”, from memory: an index on the referencing columns, else each row deleted there has all rows here read
    const bare: { leads: string }[] = await (orms[0] as MikroORM).em.getConnection().execute(`
      select c.conrelid::regclass || '.' || a.attname as leads from pg_constraint c join pg_attribute a on a.attrelid = c.conrelid and a.attnum = c.conkey[1]
      where c.contype = 'f' and c.connamespace = 'public'::regnamespace
        and not exists (select 1 from pg_index i where i.indrelid = c.conrelid and i.indkey[0] = c.conkey[1])`);
    expect(bare).toEqual([]);
  } finally {
    await Promise.all(orms.map((o) => o.close()));
  }
});

test('the demo, whose passwords everybody knows, is loaded into an empty database only', async () => {
  process.env['DATABASE_URL'] = freshDatabase('zakuska_test_demo');
  process.env['ZAKUSKA_SECRET'] ??= 'a secret of the tests, long enough';
  const orm = await open(process.env['DATABASE_URL']);
  const load = (reset: boolean): Promise<string> => orm.em.fork().transactional((em) => loadDemo(em, reset));
  try {
    await migrate(orm);
    expect(await load(false)).toBe('loaded');
    expect(await load(false)).toBe('there');
    expect(await load(true)).toBe('loaded');
    const em = orm.em.fork();
    await em.nativeDelete(Workspace, {});
    expect(await em.count(Account)).toBeGreaterThan(0);
    await em.nativeDelete(Account, {});
    em.create(Account, { id: crypto.randomUUID(), email: 'own@x.example', name: 'Own', passwordHash: 'x' });
    await em.flush();
    expect(await load(false)).toBe('own data');
    expect(await load(true)).toBe('own data');
    expect(await orm.em.fork().count(Workspace)).toBe(0);
  } finally {
    await orm.close();
  }
});

test('a database from before there were folders: courses become folders, sets theirs who began them, and nothing is lost', async () => {
  const orm = await open(freshDatabase('zakuska_test_upgrade'));
  try {
    await orm.migrator.up({ to: 'Migration20261208' });
    const run = (text: string, params: unknown[] = []): Promise<Record<string, unknown>[]> => orm.em.fork().getConnection().execute(text, params);
    const [workspace, elsewhere, account] = [crypto.randomUUID(), crypto.randomUUID(), crypto.randomUUID()];
    await run(`insert into workspace (id, name) values (?, 'W'), (?, 'E')`, [workspace, elsewhere]);
    await run(`insert into account (id, email, name, password_hash) values (?, 'a@x.example', 'A', 'x')`, [account]);
    const sets: [title: string, workspace: string, course: string][] = [
      ['One', workspace, 'Bread'],
      ['Two', workspace, 'bread'],
      ['Three', workspace, ''],
      ['Four', elsewhere, 'Bread'],
    ];
    for (const [title, of, course] of sets) {
      const id = crypto.randomUUID();
      const head = JSON.stringify({ set: { title }, drawn: { versions: [{ name: 'A', items: ['i'] }] } });
      await run(
        `insert into quiz_set (id, workspace_id, title, course, head, item_order, draft) values (?, ?, ?, ?, ?, '["i"]', '{"text":"","overrides":[]}')`,
        [id, of, title, course, head],
      );
      await run(`insert into set_item (set_id, id, item) values (?, 'i', ?)`, [
        id,
        JSON.stringify({ id: 'i', kind: 'true-false', stem: 'Is salt a grain?', points: 1, answer: false }),
      ]);
      if (title === 'One')
        await run(`insert into set_operation (id, set_id, version, account_id, operation, inverse, at) values (?, ?, 1, ?, '{}', '{}', now())`, [
          crypto.randomUUID(),
          id,
          account,
        ]);
    }
    await migrate(orm);
    const found = await run(
      `select s.title, f.names, s.owner_id = ? as own, s.restricted, i.item->>'stem' as stem, i.near_keys, s.head->'drawn' is not null as drawn
       from quiz_set s left join folder f on f.id = s.folder_id join set_item i on i.set_id = s.id order by s.created_at, s.title`,
      [account],
    );
    const of = (title: string): unknown => found.find((r) => r['title'] === title);
    const kept = { restricted: false, stem: 'Is salt a grain?', near_keys: null, drawn: true };
    expect(of('One')).toEqual({ title: 'One', names: ['Bread'], own: true, ...kept });
    expect(of('Two')).toEqual({ title: 'Two', names: ['Bread'], own: null, ...kept });
    expect(of('Three')).toEqual({ title: 'Three', names: null, own: null, ...kept });
    expect(of('Four')).toMatchObject({ names: ['Bread'] });
    const folders = await run('select workspace_id, name, trail = array[id] as top from folder order by workspace_id = ?', [workspace]);
    expect(folders).toEqual([
      { workspace_id: elsewhere, name: 'Bread', top: true },
      { workspace_id: workspace, name: 'Bread', top: true },
    ]);
  } finally {
    await orm.close();
  }
});

test('a database that does not come is waited for, then said', async () => {
  const orm = await open('postgresql://nobody:x@127.0.0.1:1/none');
  await expect(databaseThere(orm, 0.5)).rejects.toThrow(/does not answer/);
  await orm.close();
});

test('what a log says of a refused statement holds none of its values', async () => {
  const orm = await open(freshDatabase('zakuska_test_told'));
  try {
    await migrate(orm);
    const em = orm.em.fork();
    const add = (): Promise<void> => {
      const fork = orm.em.fork();
      fork.create(Account, { id: crypto.randomUUID(), email: 'private@x.example', name: 'Secret Name', passwordHash: 'the hash' });
      return fork.flush();
    };
    await add();
    const failed = await add().catch((e: unknown) => e);
    const raw = await em
      .getConnection()
      .execute("select * from quiz_set where id = 'not an id of Ada'")
      .catch((e: unknown) => e);
    for (const e of [failed, raw, new Error('outer', { cause: failed })]) {
      expect(e).toBeInstanceOf(Error);
      const said = JSON.stringify(safeToLog(e));
      expect(said).not.toMatch(/private@|Secret Name|the hash|of Ada|insert into|select \*/i);
      expect(said).toMatch(/"code":"(23505|22P02)"/);
    }
    const away = safeToLog(
      new Error("update quiz_set set title = 'Of Ada - and more' where id = 'x' - Client has encountered a connection error and is not queryable"),
    );
    expect(away.message).toBe('Client has encountered a connection error and is not queryable');
    expect(safeToLog(new Error('a plain one')).message).toBe('a plain one');
    expect(safeToLog('text')).toEqual({ type: 'string' });
  } finally {
    await orm.close();
  }
});

// SQLSTATE of PostgreSQL 15, appendix A: classes 08, 53 and 57P, and 58030
test.each([
  ['08006', 503],
  ['53100', 503],
  ['53200', 503],
  ['53300', 503],
  ['57P01', 503],
  ['58030', 503],
  ['ECONNRESET', 503],
  ['42P01', 500],
  ['23505', 500],
])('an error %s of the database is told with %i', (code, status) => {
  const sent: { status?: number; headers: Record<string, string>; body?: { detail?: string } } = { headers: {} };
  const res = {
    headersSent: false,
    setHeader: (name: string, value: string) => void (sent.headers[name] = value),
    status: (s: number) => ((sent.status = s), res),
    type: () => res,
    json: (body: { detail?: string }) => ((sent.body = body), res),
  };
  jest.spyOn(Logger.prototype, 'error').mockReturnValue();
  new ProblemFilter().catch(Object.assign(new Error('could not extend file of Ada'), { code }), {
    switchToHttp: () => ({ getResponse: () => res, getRequest: () => ({}) }),
  } as unknown as ArgumentsHost);
  expect(sent.status).toBe(status);
  expect(sent.headers['retry-after']).toBe(status === 503 ? '2' : undefined);
  expect(JSON.stringify(sent.body)).not.toContain('Ada');
});
