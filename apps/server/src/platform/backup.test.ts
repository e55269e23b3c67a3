/** Backup and restore by their commands: everything comes back in a fresh database; what is broken or of a newer version changes nothing. */
import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Item, rightResponse } from '@zakuska/core';
import { Connection } from '../connections/entities.js';
import { freshDatabase, signIn, startAnother, startServer, type TestServer } from '../testing/server.js';
import { handIn, makeWorld, type World } from '../testing/world.js';
import { migrate } from './migrate.js';
import { sealedPlaces } from './sealedPlaces.js';
import { secretIn } from './secretFile.js';
import { decrypt, encrypt, keyFrom } from './secrets.js';

const scripts = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../../../../scripts');
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'zakuska-backup-test-'));
const file = path.join(folder, 'a.tar');
const secretOf = (name: string): string => path.join(folder, name, 'secret');
const PNG = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
const ITEMS: Item[] = [{ id: 'a', kind: 'true-false', stem: `Rye is a grain: ÄÖÜ кухня 鍋 ![a dot](data:image/png;base64,${PNG})`, points: 1, answer: true }];

let server: TestServer;
let world: World;
let from: string;
let set: string;
const run = (script: string, args: string[], database: string, secret: string): { status: number | null; said: string } => {
  const { ZAKUSKA_SECRET: _, ...env } = process.env;
  const r = spawnSync(process.execPath, [path.join(scripts, script), ...args], {
    encoding: 'utf8',
    env: { ...env, DATABASE_URL: database, ZAKUSKA_SECRET_FILE: secretOf(secret) },
  });
  return { status: r.status, said: r.stdout + r.stderr };
};
/** What is in every table, as one figure each. */
async function contents(of: TestServer): Promise<Record<string, unknown>> {
  const sql = of.orm.em.fork().getConnection();
  const tables: { t: string }[] = await sql.execute("select table_name as t from information_schema.tables where table_schema = 'public' order by 1");
  const out: Record<string, unknown> = {};
  for (const { t } of tables)
    out[t] = (await sql.execute(`select count(*)::int as n, md5(coalesce(string_agg(x::text, '|' order by x::text), '')) as sum from "${t}" x`))[0];
  return out;
}

beforeAll(async () => {
  server = await startServer('zakuska_test_backup');
  from = process.env['DATABASE_URL'] as string;
  world = await makeWorld(server, 'owner@saltmarsh.example');
  const published = await world.publish(ITEMS, 'score');
  set = published.set;
  await handIn(server, published.code, 'Ada Brook', Object.fromEntries(ITEMS.map((i) => [i.id, rightResponse(i)])));
  const em = server.orm.em.fork();
  em.create(Connection, {
    id: '018f4e3a-0000-7000-8000-0000000000aa',
    workspace: world.workspace,
    service: 'lms',
    accountName: 'A',
    sealed: encrypt('a token'),
  });
  await em.flush();
  fs.mkdirSync(path.dirname(secretOf('here')), { recursive: true });
  fs.writeFileSync(secretOf('here'), `${process.env['ZAKUSKA_SECRET'] ?? ''}\n`, { mode: 0o600 });
});
afterAll(async () => {
  await server.stop();
  fs.rmSync(folder, { recursive: true });
});

test('what was kept comes back in a fresh database, with its secret, and people go on', async () => {
  const before = await contents(server);
  const made = run('backup.mjs', [file], from, 'here');
  expect(made).toMatchObject({ status: 0, said: expect.stringMatching(/holds 1 sets, 1 answers of people/) });
  expect(fs.statSync(file).mode & 0o077).toBe(0);
  expect(run('backup.mjs', [file], from, 'here')).toMatchObject({ status: 1, said: expect.stringContaining('is there already') });

  const to = freshDatabase('zakuska_test_backup_two');
  expect(run('restore.mjs', [file], to, 'there')).toMatchObject({ status: 0, said: expect.stringContaining('restored what was there on') });
  expect(fs.readFileSync(secretOf('there'), 'utf8').trim()).toBe(process.env['ZAKUSKA_SECRET']);
  process.env['DATABASE_URL'] = to;
  const { settings } = await import('./settings.js');
  settings().databaseUrl = to;
  const other = await startAnother();
  try {
    expect(await contents(other)).toEqual(before);
    const agent = other.agent();
    await signIn(agent, 'owner@saltmarsh.example', 'pass word');
    expect((await agent.get(`/api/v1/sets/${set}`).expect(200)).body).toMatchObject({ document: { set: { items: [{ stem: ITEMS[0]?.stem }] } } });
    expect(decrypt((await other.orm.em.fork().findOneOrFail(Connection, { service: 'lms' })).sealed)).toBe('a token');
    // one who works there is not cut off, and what is there is not lost by a slip
    expect(run('restore.mjs', [file], to, 'there').said).toContain('stop all servers first');
  } finally {
    await other.stop();
    settings().databaseUrl = from;
  }
  expect(run('restore.mjs', [file], to, 'there').said).toContain('not empty: 1 sets');
  expect(run('restore.mjs', [file, '--replace'], to, 'there').status).toBe(0);
});

describe('a new secret', () => {
  let to: string;
  let other: TestServer;
  const sql = <T extends object>(text: string, params: unknown[] = []): Promise<T[]> => other.orm.em.fork().getConnection().execute(text, params);
  const secretNow = (): string => fs.readFileSync(secretOf('renewed'), 'utf8').trim();
  /** The encrypted values as a secret opens them. */
  const opened = async (secret: string): Promise<(string | null)[]> => {
    const values: string[] = [];
    for (const p of sealedPlaces)
      values.push(...(await sql<{ v: string }>(`select ${p.value} as v from ${p.table} where ${p.where} order by 1`)).map((r) => r.v));
    return values.map((v) => {
      try {
        return decrypt(v, keyFrom(secret));
      } catch {
        return null;
      }
    });
  };
  beforeAll(async () => {
    to = freshDatabase('zakuska_test_backup_secret');
    fs.mkdirSync(path.dirname(secretOf('renewed')), { recursive: true });
    fs.writeFileSync(secretOf('renewed'), process.env['ZAKUSKA_SECRET'] ?? '', { mode: 0o600 });
    expect(run('restore.mjs', [file], to, 'renewed').status).toBe(0);
    const { settings } = await import('./settings.js');
    settings().databaseUrl = to;
    other = await startAnother();
    settings().databaseUrl = from;
    await sql('update account set second_factor = ?::jsonb', [JSON.stringify({ sealed: encrypt('JBSWY3DPEHPK3PXP'), on: true, step: 7, spare: ['x'] })]);
    await sql("insert into mail (id, name, address, subject, text, secret) values (gen_random_uuid(), 'Ada', 'ada@saltmarsh.example', 's', ?, true)", [
      encrypt('follow this link'),
    ]);
    await sql("insert into mail (id, name, address, subject, text) values (gen_random_uuid(), 'Ada', 'ada@saltmarsh.example', 's', 'as it is')");
  });
  const ALL = ['a token', 'JBSWY3DPEHPK3PXP', 'follow this link'];

  test('whatever is encrypted has its row in the table of places', async () => {
    const columns = await sql<{ t: string; c: string }>(
      "select table_name as t, column_name as c from information_schema.columns where column_name like '%sealed%'",
    );
    for (const { t, c } of columns) expect(sealedPlaces).toContainEqual(expect.objectContaining({ table: t, value: c }));
    expect(await opened(process.env['ZAKUSKA_SECRET'] ?? '')).toEqual(ALL);
  });

  test('is refused while people work; then all is under it, also when it was broken off before the file was changed', async () => {
    const before = secretNow();
    expect(run('secret.mjs', [], to, 'renewed')).toMatchObject({ status: 1, said: expect.stringContaining('stop all servers first') });
    expect(fs.existsSync(`${secretOf('renewed')}.new`)).toBe(false);
    await other.stop();
    expect(run('secret.mjs', [], to, 'renewed')).toMatchObject({ status: 0, said: expect.stringMatching(/3 encrypted values are under the new secret/) });
    const after = secretNow();
    expect(after).not.toBe(before);
    expect(fs.statSync(secretOf('renewed')).mode & 0o077).toBe(0);

    // as if it had been broken off behind the transaction: the file still holds the one before
    fs.writeFileSync(`${secretOf('renewed')}.new`, after, { mode: 0o600 });
    fs.writeFileSync(secretOf('renewed'), before, { mode: 0o600 });
    expect(() => secretIn(secretOf('renewed'))).toThrow(/run npm run secret again/);
    expect(run('secret.mjs', [], to, 'renewed')).toMatchObject({ status: 0, said: expect.stringContaining('0 encrypted values') });
    expect(secretNow()).toBe(after);

    const { settings } = await import('./settings.js');
    settings().databaseUrl = to;
    other = await startAnother();
    settings().databaseUrl = from;
    expect(await opened(after)).toEqual(ALL);
    expect(await opened(before)).toEqual([null, null, null]);
    // what was not encrypted is as it was
    expect(await sql('select text from mail where not secret')).toEqual([{ text: 'as it is' }]);
    expect((await sql<{ f: object }>('select second_factor as f from account'))[0]?.f).toMatchObject({ on: true, step: 7, spare: ['x'] });
  });

  test('a value under a third secret stops it, and nothing is changed', async () => {
    const now = secretNow();
    await sql('update connection set sealed = ?', [encrypt('of an installation that is gone')]);
    await other.stop();
    const { status, said } = run('secret.mjs', [], to, 'renewed');
    expect(status).toBe(1);
    expect(said).toContain('a value in connection was encrypted with a third secret');
    expect(secretNow()).toBe(now);
  });
});

test('a broken file, one of a newer version, or none at all changes nothing and says why', () => {
  const to = freshDatabase('zakuska_test_backup_three');
  const parts = path.join(folder, 'parts');
  fs.mkdirSync(parts);
  spawnSync('tar', ['-C', parts, '-xf', file]);
  const packed = (name: string): string => {
    const at = path.join(folder, name);
    spawnSync('tar', ['-C', parts, '-cf', at, 'about.json', 'database.dump', 'secret']);
    return at;
  };
  const about = JSON.parse(fs.readFileSync(path.join(parts, 'about.json'), 'utf8')) as { migrations: string[]; sha256: string };
  const put = (change: object): void => fs.writeFileSync(path.join(parts, 'about.json'), JSON.stringify({ ...about, ...change }));
  const cut = path.join(folder, 'cut.tar');
  fs.writeFileSync(cut, fs.readFileSync(file).subarray(0, 20_000));
  put({ migrations: [...about.migrations, 'Migration20991231'] });
  const newer = packed('newer.tar');
  put({ sha256: 'x' });
  const changed = packed('changed.tar');
  put({ format: 'another' });
  const foreign = packed('foreign.tar');
  // a dump that stops halfway, with a sum that is right
  const dump = fs.readFileSync(path.join(parts, 'database.dump'));
  fs.writeFileSync(path.join(parts, 'database.dump'), dump.subarray(0, dump.length - 3000));
  const sum = spawnSync('sha256sum', [path.join(parts, 'database.dump')], { encoding: 'utf8' }).stdout.split(' ')[0];
  put({ sha256: sum });
  const halfway = packed('halfway.tar');
  const cases: [string, RegExp][] = [
    [path.join(folder, 'nowhere.tar'), /there is no file/],
    [cut, /cannot be read as a backup|no backup/],
    [newer, /newer version \(Migration20991231\)/],
    [changed, /the backup is broken/],
    [foreign, /no backup of Zakuska/],
    [halfway, /Nothing was changed/],
  ];
  for (const [at, says] of cases) expect({ at, ...run('restore.mjs', [at], to, 'none') }).toMatchObject({ at, status: 1, said: expect.stringMatching(says) });
  expect(fs.existsSync(secretOf('none'))).toBe(false);
  // the database took nothing of all this
  expect(run('restore.mjs', [file], to, 'none').status).toBe(0);
});

describe('migrations', () => {
  test('an older program refuses the data of a newer one', async () => {
    await server.orm.em.getConnection().execute("insert into mikro_orm_migrations (name) values ('Migration20991231')");
    await expect(migrate(server.orm)).rejects.toThrow(/newer version \(Migration20991231\)/);
    await server.orm.em.getConnection().execute("delete from mikro_orm_migrations where name = 'Migration20991231'");
    expect(await migrate(server.orm)).toBe(0);
  });
  test('one that stops halfway leaves the data as it was, and runs whole the next time', async () => {
    const sql = server.orm.em.fork().getConnection();
    const undo = async (): Promise<void> => {
      await sql.execute("delete from mikro_orm_migrations where name = 'Migration20261226'");
      await sql.execute('alter table account drop column created_at, drop column confirmed_at, drop column second_factor');
      await sql.execute('alter table session drop column created_at, drop column seen_at, drop column agent');
      await sql.execute('alter table mail drop column secret');
      await sql.execute('drop table account_link, account_identity, audit_event');
    };
    await undo();
    // something in its way, behind what it does first
    await sql.execute('create table audit_event (other int)');
    await expect(migrate(server.orm)).rejects.toThrow(/audit_event/);
    expect(await sql.execute("select 1 from information_schema.columns where table_name = 'account' and column_name = 'confirmed_at'")).toEqual([]);
    expect(await sql.execute("select 1 from mikro_orm_migrations where name = 'Migration20261226'")).toEqual([]);
    await sql.execute('drop table audit_event');
    // two processes at once: one of them does it
    expect((await Promise.all([migrate(server.orm), migrate(server.orm)])).sort()).toEqual([0, 1]);
  });
});
