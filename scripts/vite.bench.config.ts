import { defineConfig } from 'vite';

/** Benchmarks run what production runs: the bundled code. */
export default defineConfig({
  build: { ssr: 'scripts/benchCore.ts', outDir: '.ulvane-bench', target: 'node20', emptyOutDir: true },
  ssr: { noExternal: [/^@ulvane\//] },
});
