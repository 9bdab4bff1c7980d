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
          // Half a second alone may be ten on a machine that does much else.
          testTimeout: 60_000,
        },
      },
      {
        resolve,
        ssr,
        test: {
          name: 'server',
          include: ['server/test/**/*.test.ts'],
          // Notes the statements that tests run, for scripts/check-statements.mjs.
          setupFiles: ['server/test/statements.ts'],
          // Generous, because a machine that is shared may stand still for a while; nothing waits longer than it must.
          testTimeout: 180_000,
          hookTimeout: 180_000,
          // Each file has a house of its own; more at once would only wait for each other.
          maxWorkers: 2,
        },
      },
      { resolve, ssr, test: { name: 'checks', include: ['checks/**/*.test.ts'], testTimeout: 60_000 } },
    ],
  },
});
