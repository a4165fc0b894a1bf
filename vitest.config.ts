import { BaseSequencer, type TestSpecification } from 'vitest/node';
import { defineConfig } from 'vitest/config';

/** What takes minutes begins first: else one worker is left with it while the other has nothing to do. */
const LONG = /\/(fuzz-[a-z]+|database-away|start)\.test\.ts$/;

class LongFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const sorted = await super.sort(files);
    const isLong = ({ moduleId }: TestSpecification) => LONG.test(moduleId);
    return [...sorted.filter(isLong), ...sorted.filter((file) => !isLong(file))];
  }
}

export default defineConfig({
  test: {
    maxWorkers: 2,
    sequence: { sequencer: LongFirst },
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
