import { defineConfig } from 'vite';

/** Benchmarks run what production runs: the bundled code. */
export default defineConfig({
  build: {
    ssr: true,
    rollupOptions: { input: ['scripts/benchCore.ts', 'scripts/benchAssess.ts', 'scripts/benchDisk.ts'] },
    outDir: '.ulvane-bench',
    target: 'node20',
    emptyOutDir: true,
  },
  ssr: { noExternal: [/^@ulvane\//] },
});
