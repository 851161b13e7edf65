import { fileURLToPath } from 'node:url';

/** The project's folder. The sources and what is built of them (`server/dist`) lie equally deep in it. */
export const ROOT = fileURLToPath(new URL('../..', import.meta.url));

const isBuilt = !import.meta.url.endsWith('.ts');

/** What runs in threads of their own, by where their sources are. */
const THREADS = { worker: './work/worker.ts', 'sqlite-thread': './database/sqlite-thread.ts' };

/** What a thread begins with, and what it is given to know which program it is: what is built is one, sources are compiled there. */
export function threadProgram(name: keyof typeof THREADS): { file: URL; data: { program?: string } } {
  if (isBuilt) return { file: new URL(`./${name}.js`, import.meta.url), data: {} };
  const program = new URL(THREADS[name], import.meta.url).href;
  return { file: new URL('./thread.mjs', import.meta.url), data: { program } };
}
