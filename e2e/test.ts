/** The test of Playwright, in which every worker has a server, a database and a browser of its own. */
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { test as base, type BrowserContext } from '@playwright/test';

export { expect, type Page } from '@playwright/test';

/** Ports of the servers of a worker; scripts/e2e-server.mjs starts them. */
export const portsOf = (worker: number): { web: number; lms: number; forms: number; games: number; mail: number; control: number } => ({
  web: 3200 + 100 * worker,
  lms: 3250 + 100 * worker,
  forms: 3260 + 100 * worker,
  games: 3290 + 100 * worker,
  mail: 3296 + 100 * worker,
  control: 3299 + 100 * worker,
});
const home = (worker: number): string => `http://127.0.0.1:${portsOf(worker).web}`;

/** What a page of a test may leave behind in a browser; scripts and styles that are at hand, and what they were compiled to, may stay. */
const LEFT_BEHIND = 'local_storage,indexeddb,cookies,service_workers,websql,file_systems,shared_storage,storage_buckets';

/** In a browser that has never been here, as the options say it is: its language, for one. */
export const anew = base.extend<{ control: (what: 'kill' | 'start') => Promise<Response> }>({
  // oxlint-disable-next-line no-empty-pattern -- Playwright reads the names of what is used
  baseURL: async ({}, use, info) => use(home(info.parallelIndex)),
  /** Ends the server in the middle of work, or brings it back. */
  // oxlint-disable-next-line no-empty-pattern -- as above
  control: async ({}, use, info) => use((what) => fetch(`http://127.0.0.1:${portsOf(info.parallelIndex).control}/${what}`)),
});

export const test = anew.extend<object, { desk: BrowserContext }>({
  /** A browser that has been here before, as people's have: loading and compiling the workbench for each test took a tenth of all time. */
  desk: [
    async ({ playwright }, use, info) => {
      const { launchOptions, viewport, permissions } = info.project.use;
      const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'zakuska-browser-'));
      const desk = await playwright.chromium.launchPersistentContext(folder, {
        ...launchOptions,
        ...(viewport && { viewport }),
        ...(permissions && { permissions }),
        baseURL: home(info.parallelIndex),
      });
      await use(desk);
      await desk.close();
      fs.rmSync(folder, { recursive: true, force: true });
    },
    { scope: 'worker' },
  ],
  context: async ({ desk, actionTimeout, baseURL }, use) => {
    desk.setDefaultTimeout(actionTimeout ?? 0);
    await use(desk);
    await desk.unrouteAll({ behavior: 'ignoreErrors' });
    await desk.setOffline(false);
    const clean = await desk.newPage();
    for (const page of desk.pages()) if (page !== clean) await page.close();
    const browser = await desk.newCDPSession(clean);
    await browser.send('Storage.clearDataForOrigin', { origin: baseURL ?? '', storageTypes: LEFT_BEHIND });
    await desk.clearCookies();
  },
});
