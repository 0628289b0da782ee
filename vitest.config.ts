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

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          include: [
            'packages/*/test/**/*.test.ts',
            'collector/test/**/*.test.ts',
            'scripts/test/**/*.test.ts',
            'apps/web/test/**/*.test.ts',
          ],
          // Laws over many random devices take a while on a busy machine; nothing here is a timed test.
          testTimeout: 300_000,
        },
      },
      {
        plugins: [decorators],
        test: {
          name: 'server',
          include: ['apps/server/test/**/*.test.ts'],
          setupFiles: ['apps/server/test/setup.ts'],
          testTimeout: 180_000,
          hookTimeout: 180_000,
        },
      },
      {
        test: {
          name: 'e2e',
          include: ['e2e/**/*.test.ts'],
          testTimeout: 400_000,
          hookTimeout: 240_000,
          fileParallelism: false,
        },
      },
    ],
  },
});
