import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

/** Files that take a minute or more begin first: the last of two workers would else be at one of them alone. */
const LONG = ['requests', 'kills', 'servers', 'rights', 'spendingKills', 'scale', 'inbound'];
const rankOf = ({ moduleId }: TestSpecification): number => {
  const rank = LONG.findIndex(name => moduleId.endsWith(`server/test/${name}.test.ts`));
  return rank === -1 ? LONG.length : rank;
};
class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    return (await super.sort(files)).sort((a, b) => rankOf(a) - rankOf(b));
  }
}

/** Core tests stand beside the code; server tests and checks need the database that scripts/test.sh starts. */
const resolve = { conditions: ['@auk/source'] };
const ssr = { resolve };

export default defineConfig({
  resolve,
  ssr,
  test: {
    sequence: { sequencer: LongestFirst },
    projects: [
      {
        resolve,
        ssr,
        test: {
          name: 'unit',
          isolate: false,
          maxWorkers: 2,
          include: ['core/src/**/*.test.ts', 'web/src/**/*.test.{ts,tsx}', 'standins/src/**/*.test.ts'],
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
          // Notes the statements that tests run, for scripts/check-statements.mjs; refuses a second connection within a transaction.
          setupFiles: ['server/test/setup.ts'],
          // Generous, because a machine that is shared may stand still for a while; nothing waits longer than it must.
          testTimeout: 180_000,
          hookTimeout: 180_000,
          // Each file has a house of its own; more at once would only wait for each other. What all of them import is loaded once a worker.
          maxWorkers: 2,
          isolate: false,
        },
      },
      {
        resolve,
        ssr,
        test: {
          name: 'checks',
          isolate: false,
          maxWorkers: 2,
          include: ['checks/**/*.test.ts'],
          testTimeout: 60_000,
        },
      },
    ],
  },
});
