import { fileURLToPath } from 'node:url';
import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

export default defineConfig({
  root: here('.'),
  plugins: [vue()],
  worker: { format: 'es' },
  build: {
    target: 'es2023',
    // The watch page and the teacher's application are two programs; the first must load none of the second.
    rollupOptions: { input: [here('index.html'), here('watch.html')] },
    chunkSizeWarningLimit: 1500,
  },
  server: { proxy: { '/api': 'http://localhost:4400' } },
});
