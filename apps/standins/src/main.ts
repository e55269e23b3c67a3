/** The stand-ins: small simulated outside services, a process of their own. */
import { lmsApp } from './lms/app.js';
import { Store } from './lms/store.js';

const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL is not set; npm start sets it');
const port = Number(process.env['LMS_PORT'] ?? 3100);
const publicUrl = process.env['LMS_URL'] ?? `http://127.0.0.1:${port}`;
const store = new Store(url);
// waits for its database: it may come up later
for (;;) {
  try {
    await store.open();
    break;
  } catch (e) {
    console.error(`LMS: waiting for the database (${(e as Error).message})`);
    await new Promise((r) => setTimeout(r, 500));
  }
}
const server = lmsApp(store, publicUrl).listen(port, '127.0.0.1', () => console.log(`stand-ins: LMS on ${publicUrl}`));
for (const signal of ['SIGTERM', 'SIGINT'] as const) {
  process.once(signal, () => {
    server.close();
    server.closeAllConnections();
    void store.close();
  });
}
