import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'e2e',
  outputDir: 'e2e/.out',
  workers: 1,
  reporter: [['list'], ['json', { outputFile: 'e2e/.out/report.json' }]],
  timeout: 90_000,
  expect: { timeout: 10_000 },
  use: {
    baseURL: 'http://127.0.0.1:3200',
    viewport: { width: 1280, height: 800 },
    actionTimeout: 15_000,
    trace: 'retain-on-failure',
    permissions: ['clipboard-read', 'clipboard-write'],
    launchOptions: {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-default-apps', '--disable-sync', '--no-first-run',
        '--disable-domain-reliability', '--metrics-recording-only', '--disable-features=OptimizationHints,MediaRouter,Translate',
      ],
    },
  },
  webServer: { command: 'node scripts/e2e-server.mjs', url: 'http://127.0.0.1:3200/api/v1/health', timeout: 90_000, reuseExistingServer: false, stdout: 'ignore', stderr: 'pipe', gracefulShutdown: { signal: 'SIGTERM', timeout: 8000 } },
});
