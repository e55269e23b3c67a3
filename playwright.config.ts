import os from 'node:os';
import { defineConfig } from '@playwright/test';

/** A browser, a server and a database each. */
const WORKERS = Math.min(2, os.availableParallelism());

export default defineConfig({
  testDir: 'e2e',
  outputDir: 'e2e/.out',
  workers: WORKERS,
  reporter: [['list'], ['json', { outputFile: 'e2e/.out/report.json' }]],
  // a shared machine may be three times as slow as this one: waiting costs nothing where nothing is wrong
  timeout: 480_000,
  expect: { timeout: 60_000 },
  use: {
    viewport: { width: 1280, height: 800 },
    actionTimeout: 60_000,
    // what the page was when a test failed is kept anyway; every step of it (--trace on) costs a quarter of the processor
    trace: 'off',
    permissions: ['clipboard-read', 'clipboard-write'],
    launchOptions: {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-default-apps', '--disable-sync', '--no-first-run',
        '--disable-domain-reliability', '--metrics-recording-only', '--disable-features=OptimizationHints,MediaRouter,Translate',
      ],
    },
  },
  webServer: {
    command: `node scripts/e2e-server.mjs ${WORKERS}`,
    url: 'http://127.0.0.1:3199/',
    timeout: 240_000,
    reuseExistingServer: false,
    stdout: 'ignore',
    stderr: 'pipe',
    gracefulShutdown: { signal: 'SIGTERM', timeout: 8000 },
  },
});
