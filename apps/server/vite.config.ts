import { builtinModules } from 'node:module';
import swc from 'unplugin-swc';
import { defineConfig } from 'vite';

/** The server as one file; only our own packages are bundled, the rest stays in node_modules. */
export default defineConfig({
  plugins: [
    swc.vite({
      module: { type: 'es6' },
      jsc: {
        target: 'es2022',
        parser: { syntax: 'typescript', decorators: true },
        transform: { legacyDecorator: true, decoratorMetadata: true },
      },
    }),
  ],
  build: {
    ssr: true,
    outDir: 'dist',
    target: 'node20',
    emptyOutDir: true,
    sourcemap: true,
    rollupOptions: {
      input: { main: 'src/main.ts', worker: 'src/threads/worker.ts' },
      external: builtinModules.flatMap((name) => [name, `node:${name}`]),
    },
  },
  ssr: { noExternal: [/^@ulvane\//] },
});
