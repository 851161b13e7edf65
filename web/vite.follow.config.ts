import { fileURLToPath } from 'node:url';
import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** The page that is followed live, apart from what is watched later: what both need is no reason to load that in more files. */
export default defineConfig({
  root: here('.'),
  plugins: [vue()],
  build: {
    target: 'es2023',
    // The other programs are there already.
    emptyOutDir: false,
    copyPublicDir: false,
    rolldownOptions: { input: here('follow.html') },
  },
});
