// The server, the stand-ins and a fresh database with the demo, for one worker of the browser tests: node scripts/e2e-server.mjs N.
// A control port takes "kill" and "start", so that a test can end the server in the middle of work and bring it back.
import http from 'node:http';
import { recreate } from './pg.mjs';
import { answers, finish, start, startAll } from './services.mjs';

const worker = Number(process.argv[2] ?? 0);
const port = 3200 + 20 * worker;
const databaseUrl = recreate(`zakuska_e2e_${worker}`);
await finish(start('apps/server/dist/demo/main.js', [], { DATABASE_URL: databaseUrl }, 'ignore'));
// Requests and jobs in processes of their own, as on several machines.
const env = { LOG_LEVEL: 'error', PUBLIC_URL: `http://127.0.0.1:${port}`, ROLE: 'web' };
const all = await startAll({
  databaseUrl,
  port,
  lmsPort: port + 50,
  formsPort: port + 60,
  gamesPort: port + 90,
  assistantPort: port + 95,
  env,
  stdio: ['ignore', 'ignore', 'inherit'],
});
let { server } = all;
const jobs = start(
  'apps/server/dist/main.js',
  ['--role', 'worker'],
  { DATABASE_URL: databaseUrl, ...all.outside, NODE_ENV: 'production', LOG_LEVEL: 'error', PUBLIC_URL: env.PUBLIC_URL },
  ['ignore', 'ignore', 'inherit'],
);

const control = http.createServer(async (q, r) => {
  if (q.url === '/kill') {
    const ended = new Promise((done) => server.once('exit', done));
    server.kill('SIGKILL');
    await ended;
  } else if (q.url === '/start') {
    server = start('apps/server/dist/main.js', [], { DATABASE_URL: databaseUrl, ...all.outside, NODE_ENV: 'production', PORT: String(port), ...env }, [
      'ignore',
      'ignore',
      'inherit',
    ]);
    await answers(`http://127.0.0.1:${port}/api/v1/health`, server);
  }
  r.end('ok');
});
control.listen(port + 99, '127.0.0.1');
process.once('SIGTERM', async () => {
  control.close();
  server.kill('SIGTERM');
  jobs.kill('SIGTERM');
  await all.stop();
  process.exit(0);
});
