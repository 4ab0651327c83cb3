import { defineConfig } from 'vitest/config';

const shared = {
  env: { WABISABI_LOG: 'silent' },
  testTimeout: 120_000,
  hookTimeout: 120_000,
  pool: 'forks',
  setupFiles: 'server/testing/equality.ts',
} as const;

export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      {
        // Core keeps nothing between tests but what is made once for all: its modules are loaded
        // once for many files.
        test: { ...shared, name: 'core', include: ['core/**/*.test.ts'], isolate: false },
      },
      { test: { ...shared, name: 'pages', include: ['web/**/*.test.ts'], isolate: false } },
      {
        // Components in a document without a browser, with an engine that answers as told.
        test: {
          ...shared,
          name: 'components',
          include: ['web/**/*.test.tsx'],
          environment: 'jsdom',
          setupFiles: [shared.setupFiles, 'web/testing/document.ts'],
          isolate: false,
        },
      },
      {
        test: {
          ...shared,
          name: 'around',
          // A database for the tests that ask for one; those of core and of the pages run without.
          globalSetup: ['server/testing/postgres.ts'],
          include: ['server/**/*.test.ts', 'cli/**/*.test.ts'],
        },
      },
    ],
  },
});
