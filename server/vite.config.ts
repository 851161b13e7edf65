import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** The server as plain JavaScript, which starts in half the time; what it uses from elsewhere stays in `node_modules`. */
export default defineConfig({
  root: here('.'),
  ssr: { noExternal: [/^@kite-trail\//] },
  build: {
    ssr: true,
    target: 'node20',
    outDir: here('dist'),
    emptyOutDir: true,
    copyPublicDir: false,
    sourcemap: true,
    minify: false,
    rolldownOptions: {
      input: {
        main: here('src/main.ts'),
        'new-password': here('src/new-password.ts'),
        'move-to-postgres': here('src/move-to-postgres.ts'),
        worker: here('src/work/worker.ts'),
        'sqlite-thread': here('src/database/sqlite-thread.ts'),
        demo: here('../demo/src/start.ts'),
      },
      // Side by side: by their own place they find the project's folder, and one another.
      output: { entryFileNames: '[name].js', chunkFileNames: '[name]-[hash].js' },
    },
  },
});
