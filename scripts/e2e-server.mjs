// The server, the stand-ins and a fresh database with the demo, for the browser tests. Port 3299 takes "kill" and
// "start", so that a test can end the server in the middle of work and bring it back.
import http from 'node:http';
import { recreate } from './pg.mjs';
import { answers, finish, start, startAll } from './services.mjs';

const databaseUrl = recreate('zakuska_e2e');
await finish(start('apps/server/dist/demo/main.js', [], { DATABASE_URL: databaseUrl }, 'ignore'));
// Requests and jobs in processes of their own, as on several machines.
const env = { LOG_LEVEL: 'error', PUBLIC_URL: 'http://127.0.0.1:3200', ROLE: 'web' };
const all = await startAll({ databaseUrl, port: 3200, lmsPort: 3250, env, stdio: ['ignore', 'ignore', 'inherit'] });
let { server } = all;
const worker = start(
  'apps/server/dist/main.js',
  ['--role', 'worker'],
  { DATABASE_URL: databaseUrl, LMS_URL: all.lmsUrl, NODE_ENV: 'production', LOG_LEVEL: 'error', PUBLIC_URL: env.PUBLIC_URL },
  ['ignore', 'ignore', 'inherit'],
);

const control = http.createServer(async (q, r) => {
  if (q.url === '/kill') {
    const ended = new Promise((done) => server.once('exit', done));
    server.kill('SIGKILL');
    await ended;
  } else if (q.url === '/start') {
    server = start('apps/server/dist/main.js', [], { DATABASE_URL: databaseUrl, LMS_URL: all.lmsUrl, NODE_ENV: 'production', PORT: '3200', ...env }, [
      'ignore',
      'ignore',
      'inherit',
    ]);
    await answers('http://127.0.0.1:3200/api/v1/health', server);
  }
  r.end('ok');
});
control.listen(3299, '127.0.0.1');
process.once('SIGTERM', async () => {
  control.close();
  server.kill('SIGTERM');
  worker.kill('SIGTERM');
  await all.stop();
  process.exit(0);
});
