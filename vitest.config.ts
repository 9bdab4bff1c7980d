import { defineConfig } from 'vitest/config';

/** Core tests stand beside the code; server tests and checks need the database that scripts/test.sh starts. */
const resolve = { conditions: ['@auk/source'] };
const ssr = { resolve };

export default defineConfig({
  resolve,
  ssr,
  test: {
    projects: [
      {
        resolve,
        ssr,
        test: {
          name: 'unit',
          include: ['core/src/**/*.test.ts', 'web/src/**/*.test.ts', 'standins/src/**/*.test.ts'],
        },
      },
      {
        resolve,
        ssr,
        test: {
          name: 'server',
          include: ['server/test/**/*.test.ts'],
          testTimeout: 60_000,
          hookTimeout: 120_000,
          fileParallelism: false,
        },
      },
      { resolve, ssr, test: { name: 'checks', include: ['checks/**/*.test.ts'], testTimeout: 60_000 } },
    ],
  },
});
