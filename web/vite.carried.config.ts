import { fileURLToPath } from 'node:url';
import vue from '@vitejs/plugin-vue';
import { defineConfig, type Plugin } from 'vite';
import { viteSingleFile } from 'vite-plugin-singlefile';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** Each font comes in two formats, of which every browser that runs this page takes the smaller. */
const smallFontsOnly = (): Plugin => ({
  name: 'small-fonts-only',
  enforce: 'pre',
  transform: (code, id) =>
    id.includes('@fontsource') ? code.replace(/,\s*url\([^)]*\.woff\)\s*format\(['"]woff['"]\)/g, '') : undefined,
});

/** The student's page as one file without a lesson: whoever makes an offline page puts one into it. */
export default defineConfig({
  root: here('.'),
  plugins: [smallFontsOnly(), vue(), viteSingleFile()],
  build: {
    target: 'es2023',
    emptyOutDir: false,
    copyPublicDir: false,
    rolldownOptions: { input: here('carried.html') },
  },
});
