/** The stand-ins: small simulated outside services, a process of their own. */
import type { Express } from 'express';
import { assistantApp } from './assistant/app.js';
import { formsApp } from './forms/app.js';
import { Store as FormStore } from './forms/store.js';
import { gamesApp } from './games/app.js';
import { Store as GameStore } from './games/store.js';
import { lmsApp } from './lms/app.js';
import { Store as LmsStore } from './lms/store.js';
import { Inbox, mailApp } from './mail/app.js';

interface Kept {
  open(): Promise<void>;
  close(): Promise<void>;
}
const databaseUrl = process.env['DATABASE_URL'];
if (!databaseUrl) throw new Error('DATABASE_URL is not set; npm start sets it');

/** A service on a port of loopback. It waits for its database, which may come up later. */
async function serve<S extends Kept>(
  name: string,
  port: number,
  publicUrl: string,
  store: S,
  app: (store: S, url: string) => Express | Promise<Express>,
): Promise<() => void> {
  for (;;) {
    try {
      await store.open();
      break;
    } catch (e) {
      console.error(`${name}: waiting for the database (${(e as Error).message})`);
      await new Promise((r) => setTimeout(r, 500));
    }
  }
  const server = (await app(store, publicUrl)).listen(port, '127.0.0.1', () => console.log(`stand-ins: ${name} on ${publicUrl}`));
  return () => {
    server.close();
    server.closeAllConnections();
    void store.close();
  };
}
/** For a service that keeps nothing. */
const NOTHING_KEPT: Kept = { open: () => Promise.resolve(), close: () => Promise.resolve() };
const at = (name: string, usual: number): [number, string] => {
  const port = Number(process.env[`${name}_PORT`] ?? usual);
  return [port, process.env[`${name}_URL`] ?? `http://127.0.0.1:${port}`];
};
const stops = await Promise.all([
  serve('LMS', ...at('LMS', 3100), new LmsStore(databaseUrl), lmsApp),
  serve('forms', ...at('FORMS', 3101), new FormStore(databaseUrl), formsApp),
  serve('games', ...at('GAMES', 3102), new GameStore(databaseUrl), gamesApp),
  serve('assistant', ...at('ASSISTANT', 3103), NOTHING_KEPT, assistantApp),
  serve('mail', ...at('MAIL', 3104), new Inbox(Number(process.env['SMTP_PORT'] ?? 3105)), mailApp),
]);
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => stops.forEach((stop) => stop()));
