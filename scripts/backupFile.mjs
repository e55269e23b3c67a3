// What a backup is: a tar file of three. `about.json` says what is in it, `database.dump` is the database (pg_dump, custom format), `secret`
// is what the tokens of connected services and the codes of second factors are encrypted with.
import { execFileSync, spawnSync } from 'node:child_process';
import crypto from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import pg from 'pg';
import { root } from './install.mjs';
import { binaries, up } from './pg.mjs';

export const FORMAT = 'zakuska-backup';
export const VERSION = 1;
export const PARTS = ['about.json', 'database.dump', 'secret'];

/** What goes wrong in a way that somebody can do something about. */
export class Refusal extends Error {}

/** The database of the installation: the one that is named, or the project's own, started where it does not run. */
export const databaseUrl = () => process.env.DATABASE_URL ?? up();

/** The file of the secret, or null where the environment holds it. */
export const secretFile = () => (process.env.ZAKUSKA_SECRET === undefined ? (process.env.ZAKUSKA_SECRET_FILE ?? path.join(root, '.zakuska/secret')) : null);

/** A program of PostgreSQL; the password does not stand among its arguments. */
export function pgProgram(name, url, args, options = {}) {
  const u = new URL(url);
  const env = { ...process.env, PGPASSWORD: decodeURIComponent(u.password) };
  u.password = '';
  const at = binaries() ? path.join(binaries(), name) : name;
  return { at, args: ['--dbname', u.href, ...args], env, ...options };
}
export function run({ at, args, env, input, stdio }) {
  const r = spawnSync(at, args, { env, input, stdio: stdio ?? ['pipe', 'pipe', 'pipe'], maxBuffer: 1 << 30, encoding: 'utf8' });
  if (r.error) throw new Refusal(`${path.basename(at)} could not be run: ${r.error.message}. It comes with PostgreSQL (apt-get install -y postgresql).`);
  if (r.status !== 0) throw new Refusal(`${path.basename(at)} did not end well: ${(r.stderr ?? '').trim().slice(0, 2000)}`);
  return r.stdout;
}

export async function connected(url, work) {
  const client = new pg.Client({ connectionString: url });
  try {
    await client.connect();
  } catch (e) {
    throw new Refusal(`the database cannot be reached: ${e.message}`);
  }
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

/** Refuses while anybody else is connected: what they would write in the meantime would be lost. */
export async function standsStill(client) {
  const { rows } = await client.query('select count(*)::int as n from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()');
  if (rows[0].n) throw new Refusal('somebody works with the database: stop all servers first (systemctl stop zakuska, or Ctrl+C at npm start)');
}

/** Rows of each table of the application, as the transaction of the client sees them. */
export async function countsOf(client) {
  const { rows } = await client.query(
    "select table_name as name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE' order by 1",
  );
  const counts = {};
  for (const { name } of rows) counts[name] = Number((await client.query(`select count(*) as n from "${name}"`)).rows[0].n);
  return counts;
}
/** Names of the migrations that a database has seen, in order; none for an empty one. */
export async function migrationsOf(client) {
  const { rows: there } = await client.query("select to_regclass('public.mikro_orm_migrations') as t");
  return there[0].t ? (await client.query('select name from mikro_orm_migrations order by id')).rows.map((r) => r.name) : [];
}
/** Names of the migrations that this program knows. */
export const migrationsHere = () =>
  [...fs.readFileSync(path.join(root, 'apps/server/src/migrations/index.ts'), 'utf8').matchAll(/name: '(\w+)'/g)].map((m) => m[1]);

export async function hashOf(file) {
  const hash = crypto.createHash('sha256');
  await pipeline(fs.createReadStream(file), hash);
  return hash.digest('hex');
}
export const tar = (args) => {
  try {
    return execFileSync('tar', args, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] });
  } catch (e) {
    throw new Refusal(`the file cannot be read as a backup: ${String(e.stderr ?? e.message).trim()}`);
  }
};

/** Runs a script and says what it could not do in one line. */
export async function program(work) {
  try {
    await work();
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    console.error(`zakuska: ${e.message}`);
    process.exitCode = 1;
  }
}
