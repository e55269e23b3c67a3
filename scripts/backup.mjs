// npm run backup -- FILE: everything that is kept, in one file: sets, quizzes, answers, pictures, accounts, jobs that wait, and the secret.
// May run while people work: it is the state of one moment. Keep the file where nobody reads it who may not see the answers.
import fs from 'node:fs';
import path from 'node:path';
import {
  connected,
  countsOf,
  databaseUrl,
  FORMAT,
  hashOf,
  migrationsOf,
  PARTS,
  pgProgram,
  program,
  Refusal,
  run,
  secretFile,
  tar,
  VERSION,
} from './backupFile.mjs';

await program(async () => {
  const [file] = process.argv.slice(2);
  if (!file) throw new Refusal('say where to: npm run backup -- FILE');
  const to = path.resolve(process.env.INIT_CWD ?? '', file);
  if (fs.existsSync(to)) throw new Refusal(`${to} is there already; it is not written over. Take another name.`);
  const url = databaseUrl();
  const folder = fs.mkdtempSync(`${to}.part-`);
  try {
    const dump = path.join(folder, 'database.dump');
    const about = await connected(url, async (client) => {
      // what is counted and what is written out are the same moment
      await client.query('begin isolation level repeatable read read only');
      const snapshot = (await client.query('select pg_export_snapshot() as id')).rows[0].id;
      const migrations = await migrationsOf(client);
      if (!migrations.length) throw new Refusal('there is no Zakuska in this database');
      const counts = await countsOf(client);
      const { version } = (await client.query("select current_setting('server_version') as version")).rows[0];
      run(pgProgram('pg_dump', url, ['--format=custom', '--no-owner', '--no-privileges', `--snapshot=${snapshot}`, `--file=${dump}`]));
      return { format: FORMAT, version: VERSION, madeAt: new Date().toISOString(), postgresql: version, migrations, counts };
    });
    const secret = secretFile();
    fs.writeFileSync(path.join(folder, 'secret'), secret === null ? process.env.ZAKUSKA_SECRET : fs.existsSync(secret) ? fs.readFileSync(secret, 'utf8') : '', {
      mode: 0o600,
    });
    fs.writeFileSync(path.join(folder, 'about.json'), `${JSON.stringify({ ...about, sha256: await hashOf(dump) }, null, 2)}\n`, { mode: 0o600 });
    const whole = path.join(folder, 'whole.tar');
    tar(['-C', folder, '-cf', whole, ...PARTS]);
    fs.chmodSync(whole, 0o600);
    const handle = fs.openSync(whole, 'r+');
    fs.fsyncSync(handle);
    fs.closeSync(handle);
    fs.renameSync(whole, to);
    const rows = Object.values(about.counts).reduce((a, b) => a + b, 0);
    console.log(
      `zakuska: ${to} holds ${about.counts.quiz_set} sets, ${about.counts.attempt} answers of people and ${rows} rows in all, ${(fs.statSync(to).size / 1e6).toFixed(1)} MB`,
    );
  } finally {
    fs.rmSync(folder, { recursive: true, force: true });
  }
});
