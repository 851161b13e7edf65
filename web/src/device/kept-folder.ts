import { numberedName } from '@kite-trail/core/formats/numbered-name';
import { openDB, type DBSchema } from 'idb';

/** A folder of a disk, as a browser hands it out (WICG File System Access); the DOM types do not know its questions yet. */
interface Folder extends FileSystemDirectoryHandle {
  requestPermission(asked: { mode: 'readwrite' }): Promise<PermissionState>;
}
type Picker = (options: { id: string; mode: 'readwrite' }) => Promise<Folder>;

interface Schema extends DBSchema {
  folders: { key: string; value: Folder };
}
const THE_FOLDER = 'last';
const database = () =>
  openDB<Schema>('kite-trail-folder', 1, { upgrade: (db) => void db.createObjectStore('folders') });

const picker = (): Picker | null => (window as unknown as { showDirectoryPicker?: Picker }).showDirectoryPicker ?? null;

export const canSaveIntoFolder = (): boolean => picker() !== null;

/**
 * Saves a file into the folder that was chosen last, or, where there is none any more, into one that is chosen now. Nothing that is
 * there is written over.
 * @returns where it is, to be told; `null` where nobody chose a folder
 * @throws Error with a message for the teacher where it cannot be written
 */
export async function saveIntoFolder(file: File): Promise<{ folder: string; name: string } | null> {
  const folder = (await allowedFolder()) ?? (await chosenFolder());
  if (!folder) return null;
  let begun: string | null = null;
  try {
    const name = await freeName(folder, file.name);
    const handle = await folder.getFileHandle(name, { create: true });
    begun = name;
    await file.stream().pipeTo(await handle.createWritable());
    return { folder: folder.name, name };
  } catch (error) {
    // An empty file would be taken for what was made.
    if (begun) await folder.removeEntry(begun).catch(() => {});
    await forgetFolder();
    const isFull = (error as Error).name === 'QuotaExceededError';
    throw new Error(
      isFull
        ? 'There is no room left in this folder.'
        : 'This folder cannot be written into. Try again to choose another.',
      { cause: error },
    );
  }
}

/** The folder that was chosen last, where its owner still allows it. */
async function allowedFolder(): Promise<Folder | null> {
  try {
    const kept = await (await database()).get('folders', THE_FOLDER);
    return kept && (await kept.requestPermission({ mode: 'readwrite' })) === 'granted' ? kept : null;
  } catch {
    return null;
  }
}

async function chosenFolder(): Promise<Folder | null> {
  let folder: Folder;
  try {
    folder = await picker()!({ id: 'kite-trail', mode: 'readwrite' });
  } catch (error) {
    if ((error as Error).name === 'AbortError') return null;
    throw error;
  }
  await database()
    .then((db) => db.put('folders', folder, THE_FOLDER))
    .catch(() => {});
  return folder;
}

/** The next save asks for a folder anew. */
const forgetFolder = (): Promise<void> =>
  database()
    .then((db) => db.delete('folders', THE_FOLDER))
    .catch(() => {});

/** A name that nothing in the folder has: `Knots.mp4`, `Knots 2.mp4`, … @throws DOMException where the folder cannot be read */
async function freeName(folder: FileSystemDirectoryHandle, name: string): Promise<string> {
  for (let n = 1; ; n++) {
    const tried = numberedName(name, n);
    try {
      await folder.getFileHandle(tried);
    } catch (error) {
      const { name: why } = error as Error;
      if (why === 'NotFoundError') return tried;
      // A folder has this name.
      if (why !== 'TypeMismatchError') throw error;
    }
  }
}
