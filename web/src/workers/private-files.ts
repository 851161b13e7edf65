import { StreamTarget, type StreamTargetChunk } from 'mediabunny';

/** Files in the browser's own private folder on this device (File System Standard): a name, within folders. */
export type PrivatePath = readonly [...folders: string[], name: string];

async function folderOf(path: PrivatePath, create: boolean): Promise<FileSystemDirectoryHandle> {
  let folder = await navigator.storage.getDirectory();
  for (const name of path.slice(0, -1)) folder = await folder.getDirectoryHandle(name, { create });
  return folder;
}

/** A file as it is kept, or `null` where there is none. */
export async function privateFile(path: PrivatePath): Promise<File | null> {
  try {
    return await (await (await folderOf(path, false)).getFileHandle(path.at(-1)!)).getFile();
  } catch {
    return null;
  }
}

/** Beside a file that was written to its end. */
const sealOf = (path: PrivatePath): PrivatePath =>
  [...path.slice(0, -1), `${path.at(-1)}.whole`] as const as PrivatePath;

/** A file that was written to its end, or `null`. */
export async function wholePrivateFile(path: PrivatePath): Promise<File | null> {
  return (await privateFile(sealOf(path))) && privateFile(path);
}

/** Removes a file, or a folder with all that is in it; what another window holds open stays. */
export async function removePrivate(path: PrivatePath): Promise<void> {
  const folder = await folderOf(path, false).catch(() => null);
  await folder?.removeEntry(path.at(-1)!, { recursive: true }).catch(() => {});
}

/** What lies in a folder; nothing where there is none. */
export async function privateNames(folder: readonly string[]): Promise<string[]> {
  const found = await folderOf([...folder, ''], false).catch(() => null);
  const names: string[] = [];
  if (found) for await (const name of found.keys()) names.push(name);
  return names;
}

/** A file that is written by a worker, from its beginning. One that is closed before it is finished is none. */
export class PrivateWriter {
  private constructor(
    private readonly path: PrivatePath,
    private readonly file: FileSystemSyncAccessHandle,
  ) {}

  /** @throws DOMException where it is open elsewhere, or this browser keeps no files */
  static async open(path: PrivatePath): Promise<PrivateWriter> {
    await removePrivate(sealOf(path));
    const handle = await (await folderOf(path, true)).getFileHandle(path.at(-1)!, { create: true });
    const file = await handle.createSyncAccessHandle();
    file.truncate(0);
    return new PrivateWriter(path, file);
  }

  /** Writes it all. @throws DOMException `QuotaExceededError` where the device has no room left */
  write(data: Uint8Array<ArrayBuffer>, at: number): void {
    if (this.file.write(data, { at }) < data.length) {
      throw new DOMException('This device has no room left for it.', 'QuotaExceededError');
    }
  }

  /** Reads back what was written; less where there is less. */
  read(at: number, length: number): Uint8Array<ArrayBuffer> {
    const bytes = new Uint8Array(length);
    return bytes.subarray(0, this.file.read(bytes, { at }));
  }

  /** For whatever writes a media file. */
  target(): StreamTarget {
    const write = ({ data, position }: StreamTargetChunk) => this.write(data as Uint8Array<ArrayBuffer>, position);
    return new StreamTarget(new WritableStream({ write }));
  }

  close(): void {
    this.file.flush();
    this.file.close();
  }

  /** It is written to its end. */
  async finish(): Promise<void> {
    this.close();
    const seal = sealOf(this.path);
    await (await folderOf(seal, true)).getFileHandle(seal.at(-1)!, { create: true });
  }
}
