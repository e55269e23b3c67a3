// Starts the server and the stand-ins as processes of their own and waits until they answer.
import { spawn } from 'node:child_process';
import net from 'node:net';
import path from 'node:path';
import { root } from './install.mjs';

/** The wanted port of loopback, or the next free one. */
export async function freePort(wanted) {
  for (let port = wanted; port < wanted + 50; port++) {
    const free = await new Promise((resolve) => {
      const s = net.createServer().once('error', () => resolve(false));
      s.listen(port, '127.0.0.1', () => s.close(() => resolve(true)));
    });
    if (free) return port;
  }
  throw new Error(`no free port from ${wanted} on`);
}

export function start(script, args, env, stdio = ['ignore', 'inherit', 'inherit']) {
  return spawn(process.execPath, ['--enable-source-maps', path.join(root, script), ...args], { cwd: root, env: { ...process.env, ...env }, stdio });
}

export async function answers(url, child, seconds = 40) {
  const until = Date.now() + seconds * 1000;
  while (Date.now() < until) {
    if (child.exitCode !== null) throw new Error(`the process for ${url} ended with code ${child.exitCode}`);
    try {
      if ((await fetch(url)).ok) return;
    } catch {
      /* not yet */
    }
    await new Promise((r) => setTimeout(r, 100));
  }
  throw new Error(`${url} does not answer`);
}

/** Runs a script to its end. */
export const finish = (child) =>
  new Promise((resolve, reject) => child.once('exit', (code) => (code === 0 ? resolve() : reject(new Error(`ended with code ${code}`)))));

/** Server and stand-ins on a database. Gives the address and a way to stop both. */
export async function startAll({ databaseUrl, port = 3000, lmsPort = 3100, env = {}, stdio }) {
  const webPort = await freePort(port);
  const lms = await freePort(lmsPort);
  const url = `http://127.0.0.1:${webPort}`;
  const common = { DATABASE_URL: databaseUrl, LMS_URL: `http://127.0.0.1:${lms}`, NODE_ENV: 'production', ...env };
  const standins = start('apps/standins/dist/main.js', [], { ...common, LMS_PORT: String(lms) }, stdio);
  const server = start('apps/server/dist/main.js', [], { PUBLIC_URL: url, ...common, PORT: String(webPort) }, stdio);
  const children = [standins, server];
  const stop = () =>
    Promise.all(
      children.map(
        (c) =>
          new Promise((resolve) => {
            if (c.exitCode !== null || c.signalCode !== null) return resolve();
            c.once('exit', resolve);
            c.kill('SIGTERM');
          }),
      ),
    );
  try {
    await Promise.all([answers(`${url}/api/v1/health`, server), answers(`http://127.0.0.1:${lms}/health`, standins)]);
  } catch (e) {
    await stop();
    throw e;
  }
  return { url, lmsUrl: `http://127.0.0.1:${lms}`, server, standins, stop };
}
