// npm run restore -- FILE [--replace]: brings back what npm run backup has written, here or on another machine. The database has to be empty;
// with --replace what is in it goes. All in one transaction: where something is wrong, the database is as it was. A newer program brings
// the data up to date at its next start; an older one refuses.
import { spawn } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import {
  connected,
  countsOf,
  databaseUrl,
  FORMAT,
  hashOf,
  migrationsHere,
  PARTS,
  pgProgram,
  program,
  Refusal,
  secretFile,
  standsStill,
  tar,
  VERSION,
} from './backupFile.mjs';

function read(from, folder) {
  if (!fs.existsSync(from)) throw new Refusal(`there is no file ${from}`);
  tar(['-C', folder, '-xf', from, ...PARTS]);
  let about;
  try {
    about = JSON.parse(fs.readFileSync(path.join(folder, 'about.json'), 'utf8'));
  } catch {
    throw new Refusal('the file is no backup, or a broken one: what it says about itself cannot be read');
  }
  if (about.format !== FORMAT) throw new Refusal('the file is no backup of Zakuska');
  const newer = (about.migrations ?? []).filter((m) => !migrationsHere().includes(m));
  if (!(about.version <= VERSION) || newer.length)
    throw new Refusal(`the backup was made by a newer version (${newer.at(-1) ?? `format ${about.version}`}). Update the program first, then restore.`);
  return about;
}

/** Restores within one transaction; what is there goes first. */
async function put(dump, url) {
  const restore = pgProgram('pg_restore', url, []);
  const psql = pgProgram('psql', url, ['--no-psqlrc', '--quiet', '--single-transaction', '--set=ON_ERROR_STOP=1', '--file=-']);
  const from = spawn(restore.at, ['--no-owner', '--no-privileges', '--file=-', dump], { stdio: ['ignore', 'pipe', 'pipe'] });
  const into = spawn(psql.at, psql.args, { env: psql.env, stdio: ['pipe', 'ignore', 'pipe'] });
  const said = { from: '', into: '' };
  from.stderr.on('data', (d) => (said.from += d));
  into.stderr.on('data', (d) => (said.into += d));
  into.stdin.on('error', () => undefined);
  const codes = Promise.all([from, into].map((p) => new Promise((done, fail) => p.once('error', fail).once('close', done))));
  into.stdin.write('drop schema if exists pgboss cascade;\ndrop schema public cascade;\ncreate schema public;\n');
  from.stdout.pipe(into.stdin, { end: false });
  from.once('close', (code) => {
    // a statement that cannot be run ends the transaction, so that nothing of a dump that stops halfway stays
    if (code !== 0) into.stdin.write('\n;select 1/0;\n');
    into.stdin.end();
  });
  const [read, written] = await codes;
  if (read !== 0) throw new Refusal(`the database in the backup is broken (${said.from.trim().slice(0, 500)}). Nothing was changed.`);
  if (written !== 0) throw new Refusal(`the database did not take it (${said.into.trim().slice(0, 500)}). Nothing was changed.`);
}

function putSecret(kept) {
  const file = secretFile();
  if (!kept.trim()) return;
  if (file === null) {
    if (process.env.ZAKUSKA_SECRET.trim() !== kept.trim())
      console.log('zakuska: ZAKUSKA_SECRET is another one than that of the backup: services have to be connected again.');
    return;
  }
  if (fs.existsSync(file)) {
    if (fs.readFileSync(file, 'utf8').trim() === kept.trim()) return;
    fs.renameSync(file, `${file}.before-${Date.now()}`);
  }
  fs.mkdirSync(path.dirname(file), { recursive: true, mode: 0o700 });
  fs.writeFileSync(file, kept, { mode: 0o600 });
}

await program(async () => {
  const args = process.argv.slice(2);
  const replace = args.includes('--replace');
  const [file] = args.filter((a) => !a.startsWith('--'));
  if (!file) throw new Refusal('say from where: npm run restore -- FILE');
  const from = path.resolve(process.env.INIT_CWD ?? '', file);
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'zakuska-restore-'));
  try {
    const about = read(from, folder);
    const dump = path.join(folder, 'database.dump');
    if ((await hashOf(dump)) !== about.sha256) throw new Refusal('the backup is broken: its database is not the one that was written. Take another one.');
    const url = databaseUrl();
    await connected(url, async (client) => {
      await standsStill(client);
      const there = await countsOf(client);
      if (Object.keys(there).length && !replace)
        throw new Refusal(
          `the database is not empty: ${there.quiz_set ?? 0} sets, ${there.account ?? 0} accounts. Say --replace to lose them (npm run backup first).`,
        );
    });
    await put(dump, url);
    putSecret(fs.readFileSync(path.join(folder, 'secret'), 'utf8'));
    const now = await connected(url, countsOf);
    const other = Object.entries(about.counts).filter(([table, n]) => now[table] !== n);
    if (other.length)
      throw new Refusal(`some tables have other numbers of rows than when the backup was made: ${other.map(([t, n]) => `${t} ${now[t]} of ${n}`).join(', ')}`);
    console.log(
      `zakuska: restored what was there on ${about.madeAt}: ${about.counts.quiz_set} sets, ${about.counts.attempt} answers of people. Start the server: it brings the data up to date.`,
    );
  } finally {
    fs.rmSync(folder, { recursive: true, force: true });
  }
});
