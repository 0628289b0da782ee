import { defineConfig } from 'vitest/config';
import { z } from 'zod';

/** The tests of core that this round of the mutation run judges by: patterns, with "!" before those left out. */
const patterns = z
  .array(z.string())
  .parse(JSON.parse(process.env.ULVANE_MUTATION_TESTS ?? '["packages/core/test/**/*.test.ts"]'));

export default defineConfig({
  test: {
    include: patterns.filter((pattern) => !pattern.startsWith('!')),
    exclude: patterns.filter((pattern) => pattern.startsWith('!')).map((pattern) => pattern.slice(1)),
    testTimeout: 120_000,
  },
});
