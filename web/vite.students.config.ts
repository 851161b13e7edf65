import { fileURLToPath } from 'node:url';
import vue from '@vitejs/plugin-vue';
import { defineConfig, type Rolldown } from 'vite';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

const PAGES = [here('watch.html'), here('class.html')];

/** All that is loaded with a module before it runs. */
function loadedWith(root: string, chunking: Rolldown.ChunkingContext): Set<string> {
  const found = new Set([root]);
  // What is added while a set is walked is walked, too.
  for (const id of found) for (const next of chunking.getModuleInfo(id)?.importedIds ?? []) found.add(next);
  return found;
}

/**
 * What all students' pages load before they run is one file, not one for each way of sharing: on a slow network each file stands before
 * the sound.
 */
function oneSharedFile() {
  let pages: Set<string>[] | null = null;
  return (id: string, chunking: Rolldown.ChunkingContext) => {
    pages ??= PAGES.map((page) => loadedWith(page, chunking));
    return pages.every((page) => page.has(id)) ? 'shared' : null;
  };
}

/** What students see is a program of its own: it carries nothing of what only the teacher's needs, nor parts of libraries it does not use. */
export default defineConfig({
  root: here('.'),
  plugins: [vue()],
  worker: { format: 'es' },
  build: {
    target: 'es2023',
    // The teacher's program is there already.
    emptyOutDir: false,
    copyPublicDir: false,
    rolldownOptions: {
      input: PAGES,
      output: { codeSplitting: { groups: [{ name: oneSharedFile(), includeDependenciesRecursively: false }] } },
    },
  },
});
