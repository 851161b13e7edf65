import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** What keeps watched lessons on a device: one file with an address that stays, for browsers look for its next version there. */
export default defineConfig({
  root: here('.'),
  publicDir: false,
  build: {
    target: 'es2023',
    emptyOutDir: false,
    lib: {
      entry: here('src/watch/offline/worker.ts'),
      formats: ['iife'],
      name: 'watchOffline',
      fileName: () => 'watch-offline.js',
    },
  },
  define: { 'process.env.NODE_ENV': '"production"' },
});
