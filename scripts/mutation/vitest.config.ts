import { defineConfig } from 'vitest/config';

/** The tests of core alone, as the mutation run starts them: for every mutant those that reach it. */
export default defineConfig({
  test: { include: ['packages/core/test/**/*.test.ts'], testTimeout: 120_000 },
});
