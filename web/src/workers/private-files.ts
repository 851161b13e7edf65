/** A file in the browser's own private folder on this device (File System Standard): its folders, and last its name. */
export type PrivatePath = readonly string[];

/** @throws DOMException where there is none, or this browser keeps no files */
export async function privateFolderOf(path: PrivatePath, create: boolean): Promise<FileSystemDirectoryHandle> {
  let folder = await navigator.storage.getDirectory();
  for (const name of path.slice(0, -1)) folder = await folder.getDirectoryHandle(name, { create });
  return folder;
}

/** A file as it is kept, or `null` where there is none. */
export async function privateFile(path: PrivatePath): Promise<File | null> {
  try {
    return await (await (await privateFolderOf(path, false)).getFileHandle(path.at(-1)!)).getFile();
  } catch {
    return null;
  }
}

/** Lies beside a file that was written to its end. */
const sealOf = (path: PrivatePath): PrivatePath => [...path.slice(0, -1), `${path.at(-1)}.whole`];

/** States that a file is whole. */
export async function sealPrivate(path: PrivatePath): Promise<void> {
  const seal = sealOf(path);
  await (await privateFolderOf(seal, true)).getFileHandle(seal.at(-1)!, { create: true });
}

export const unsealPrivate = (path: PrivatePath): Promise<void> => removeEntry(sealOf(path));

/** A file that is whole, or `null`. */
export async function wholePrivateFile(path: PrivatePath): Promise<File | null> {
  return (await privateFile(sealOf(path))) && privateFile(path);
}

/** Removes a file with its seal, or a folder with all that is in it; what another window holds open stays. */
export async function removePrivate(path: PrivatePath): Promise<void> {
  await unsealPrivate(path);
  await removeEntry(path);
}

async function removeEntry(path: PrivatePath): Promise<void> {
  const folder = await privateFolderOf(path, false).catch(() => null);
  await folder?.removeEntry(path.at(-1)!, { recursive: true }).catch(() => {});
}

/** What lies in a folder; nothing where there is none. */
export async function privateNames(folder: readonly string[]): Promise<string[]> {
  const found = await privateFolderOf([...folder, ''], false).catch(() => null);
  const names: string[] = [];
  if (found) for await (const name of found.keys()) names.push(name);
  return names;
}
