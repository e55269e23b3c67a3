// The server, the stand-ins and a fresh database with the demo for each worker of the browser tests: node scripts/e2e-server.mjs N.
// Of each worker a control port takes "kill" and "start", so that a test can end the server in the middle of work and bring it back.
// Port 3199 answers once all of them do.
import http from 'node:http';
import { recreate } from './pg.mjs';
import { answers, finish, start, startAll } from './services.mjs';

const workers = Number(process.argv[2] ?? 1);
const databases = [recreate('zakuska_e2e_0')];
await finish(start('apps/server/dist/demo/main.js', [], { DATABASE_URL: databases[0] }, 'ignore'));
// the demo is loaded once
for (let n = 1; n < workers; n++) databases.push(recreate(`zakuska_e2e_${n}`, 'zakuska_e2e_0'));

/** @returns ends them */
async function begin(worker, databaseUrl) {
  const port = 3200 + 100 * worker;
  // Requests and jobs in processes of their own, as on several machines.
  const env = { LOG_LEVEL: 'error', PUBLIC_URL: `http://127.0.0.1:${port}`, ROLE: 'web' };
  const quiet = ['ignore', 'ignore', 'inherit'];
  const all = await startAll({
    databaseUrl,
    port,
    lmsPort: port + 50,
    formsPort: port + 60,
    gamesPort: port + 90,
    assistantPort: port + 95,
    mailPort: port + 70,
    env,
    stdio: quiet,
  });
  let { server } = all;
  const common = { DATABASE_URL: databaseUrl, ...all.outside, NODE_ENV: 'production' };
  const jobs = start('apps/server/dist/main.js', ['--role', 'worker'], { ...common, LOG_LEVEL: 'error', PUBLIC_URL: env.PUBLIC_URL }, quiet);
  const control = http.createServer(async (q, r) => {
    if (q.url === '/kill') {
      const ended = new Promise((done) => server.once('exit', done));
      server.kill('SIGKILL');
      await ended;
    } else if (q.url === '/start') {
      server = start('apps/server/dist/main.js', [], { ...common, PORT: String(port), ...env }, quiet);
      await answers(`http://127.0.0.1:${port}/api/v1/health`, server);
    }
    r.end('ok');
  });
  control.listen(port + 99, '127.0.0.1');
  return () => {
    control.close();
    server.kill('SIGTERM');
    jobs.kill('SIGTERM');
    return all.stop();
  };
}

const ends = await Promise.all(databases.map((url, worker) => begin(worker, url)));
http.createServer((_, r) => r.end('ready')).listen(3199, '127.0.0.1');
process.once('SIGTERM', async () => {
  await Promise.all(ends.map((end) => end()));
  process.exit(0);
});
