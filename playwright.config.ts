import { defineConfig } from '@playwright/test';

const ALONE = ['baking.spec.ts', 'database.spec.ts', 'worker.spec.ts'];

export default defineConfig({
  testDir: 'e2e',
  timeout: 180_000,
  expect: { timeout: 30_000 },
  // Two at a time: much of a journey is waiting. What clears baked frames for everybody, or takes
  // the database or the worker away, runs by itself after the others.
  workers: 2,
  projects: [
    { name: 'together', testIgnore: ALONE },
    { name: 'alone', testMatch: ALONE, dependencies: ['together'], workers: 1 },
  ],
  retries: 1,
  reporter: [['list']],
  use: {
    baseURL: process.env['BASE'] ?? 'http://127.0.0.1:4321',
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    actionTimeout: 30_000,
    launchOptions: {
      // Scroll bars are drawn, as most machines do.
      ignoreDefaultArgs: ['--hide-scrollbars'],
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
