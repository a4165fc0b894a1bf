import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      {
        test: {
          name: 'core',
          // They share nothing but what is never altered: the modules are read once for each worker, not for each file.
          isolate: false,
          include: ['packages/*/src/**/*.test.ts', 'apps/web/src/**/*.test.ts'],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'outside',
          include: ['packages/core/outside/*.test.ts'],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'server',
          include: ['apps/server/test/**/*.test.ts'],
          globalSetup: ['apps/server/test/support/cluster.ts'],
          testTimeout: 60_000,
          hookTimeout: 60_000,
          expect: { poll: { timeout: 20_000 } },
        },
      },
    ],
  },
});
