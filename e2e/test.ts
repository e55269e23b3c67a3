/** The test of Playwright, in which every worker has a server and a database of its own. */
import { test as base } from '@playwright/test';

export { expect, type Page } from '@playwright/test';

/** Ports of the servers of a worker; scripts/e2e-server.mjs starts them. */
export const portsOf = (worker: number): { web: number; lms: number; forms: number; games: number; mail: number; control: number } => ({
  web: 3200 + 20 * worker,
  lms: 3250 + 20 * worker,
  forms: 3260 + 20 * worker,
  games: 3290 + 20 * worker,
  mail: 3296 + 20 * worker,
  control: 3299 + 20 * worker,
});

export const test = base.extend<{ control: (what: 'kill' | 'start') => Promise<Response> }>({
  // oxlint-disable-next-line no-empty-pattern -- Playwright reads the names of what is used
  baseURL: async ({}, use, info) => use(`http://127.0.0.1:${portsOf(info.parallelIndex).web}`),
  /** Ends the server in the middle of work, or brings it back. */
  // oxlint-disable-next-line no-empty-pattern -- as above
  control: async ({}, use, info) => use((what) => fetch(`http://127.0.0.1:${portsOf(info.parallelIndex).control}/${what}`)),
});
