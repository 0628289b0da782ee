import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const api = process.env.ULVANE_API ?? 'http://127.0.0.1:4310';

export default defineConfig({
  plugins: [react()],
  server: { proxy: { '/api': { target: api, changeOrigin: false } } },
  build: { outDir: 'dist', emptyOutDir: true, manifest: true, target: 'es2022', assetsInlineLimit: 0 },
  css: {
    preprocessorOptions: {
      scss: {
        silenceDeprecations: ['import', 'global-builtin', 'color-functions', 'if-function'],
        quietDeps: true,
      },
    },
  },
});
