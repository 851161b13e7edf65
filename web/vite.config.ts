import { fileURLToPath } from 'node:url';
import vue from '@vitejs/plugin-vue';
import { defineConfig, normalizePath } from 'vite';
import { viteStaticCopy } from 'vite-plugin-static-copy';

/** What PDFs may need to be drawn: character maps, fonts they do not bring along, decoders, colour profiles. */
const pdfParts = ['cmaps', 'standard_fonts', 'wasm', 'iccs'].map((folder) => ({
  src: normalizePath(fileURLToPath(new URL(`../node_modules/pdfjs-dist/${folder}/*`, import.meta.url))),
  dest: `pdf/${folder}`,
}));

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

export default defineConfig({
  root: here('.'),
  plugins: [vue(), viteStaticCopy({ targets: pdfParts })],
  worker: { format: 'es' },
  build: {
    target: 'es2023',
    chunkSizeWarningLimit: 1500,
    // Teachers and students make lessons with the same parts.
    rolldownOptions: { input: [here('index.html'), here('student.html')] },
  },
  server: { proxy: { '/api': 'http://localhost:4400' } },
});
