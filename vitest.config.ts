import swc from 'unplugin-swc';
import { defineConfig } from 'vitest/config';

const decorators = swc.vite({
  module: { type: 'es6' },
  jsc: {
    target: 'es2022',
    parser: { syntax: 'typescript', decorators: true },
    transform: { legacyDecorator: true, decoratorMetadata: true },
  },
});

/** Where laws draw their cases from. */
const laws = 'packages/core/test/seed.ts';

/** How many people a server takes: with nothing beside it. */
const alone = ['e2e/drills.test.ts'];

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          // Nothing here keeps state in a module: the files of a worker share what they import.
          isolate: false,
          include: [
            'packages/*/test/**/*.test.ts',
            'collector/test/**/*.test.ts',
            'scripts/test/**/*.test.ts',
            'apps/web/test/**/*.test.ts',
          ],
          setupFiles: [laws],
          // Laws over many random devices take a while on a busy machine; nothing here is a timed test.
          testTimeout: 300_000,
        },
      },
      {
        plugins: [decorators],
        test: {
          name: 'server',
          isolate: false,
          include: ['apps/server/test/**/*.test.ts'],
          setupFiles: ['apps/server/test/setup.ts', laws],
          testTimeout: 180_000,
          hookTimeout: 180_000,
        },
      },
      {
        test: {
          name: 'e2e',
          include: ['e2e/**/*.test.ts'],
          exclude: alone,
          testTimeout: 400_000,
          hookTimeout: 240_000,
        },
      },
      {
        test: {
          name: 'alone',
          include: alone,
          testTimeout: 400_000,
          hookTimeout: 240_000,
        },
      },
    ],
  },
});
