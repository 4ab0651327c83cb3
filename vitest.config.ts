import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['core/**/*.test.ts', 'server/**/*.test.ts', 'cli/**/*.test.ts', 'web/**/*.test.ts'],
    globalSetup: ['server/testing/postgres.ts'],
    env: { WABISABI_LOG: 'silent' },
    testTimeout: 120_000,
    hookTimeout: 120_000,
    pool: 'forks',
    maxWorkers: 2,
  },
});
