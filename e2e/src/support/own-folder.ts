import type { Person } from './browser';

/** Lets a person choose a folder of the browser's own, where else the system's dialog would ask: files are written into it as into any. */
export const givesFolder = (person: Person, name: string): Promise<void> =>
  person.page.evaluate((called) => {
    const own = async () => {
      const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle(called, { create: true });
      return Object.assign(folder, { requestPermission: async () => 'granted' });
    };
    Object.assign(window, { showDirectoryPicker: own });
  }, name);

/** What is in that folder: the names of its files, and how large they are. */
export const inFolder = (person: Person, name: string): Promise<Record<string, number>> =>
  person.page.evaluate(async (called) => {
    const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle(called);
    const found: Record<string, number> = {};
    for await (const handle of (folder as unknown as { values(): AsyncIterable<FileSystemFileHandle> }).values()) {
      found[handle.name] = (await handle.getFile()).size;
    }
    return found;
  }, name);
