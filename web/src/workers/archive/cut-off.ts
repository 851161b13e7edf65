import { ARCHIVE, type ArchiveManifest } from '@kite-trail/core/contract/archive';

/** A file in an archive, wherever in it it lies. */
export interface ArchivedFile {
  sizeBytes: number;
  /** Writes what is in it. @throws where it cannot be read */
  writeTo(into: WritableStream<Uint8Array>): Promise<unknown>;
}

// A ZIP's local file header and data descriptor (APPNOTE.TXT 6.3.10, sections 4.3.7 and 4.3.9).
const HEADER = { signature: 0x04034b50, bytes: 30, flagsAt: 6, methodAt: 8, sizeAt: 22, nameAt: 26, extraAt: 28 };
const DESCRIPTOR_BYTES = 16;
const IS_ENCRYPTED = 1;
const HAS_DESCRIPTOR = 8;

/**
 * Of an archive whose end is missing, the files that are there to their end. A ZIP's list of files is its end; but our archives
 * begin with a list of their own, and hold the files in its order, as they are.
 * @param readManifest reads the archive's list, which comes first
 */
export async function filesBeforeTheEnd(
  archive: Blob,
  readManifest: (file: ArchivedFile) => Promise<ArchiveManifest>,
): Promise<Map<string, ArchivedFile>> {
  const found = new Map<string, ArchivedFile>();
  const first = await fileAt(archive, 0, ARCHIVE.manifest, null);
  if (!first) return found;
  found.set(ARCHIVE.manifest, first.file);
  let at = first.nextAt;
  for (const { path, sizeBytes } of (await readManifest(first.file)).files) {
    const next = await fileAt(archive, at, path, sizeBytes);
    if (!next) break;
    found.set(path, next.file);
    at = next.nextAt;
  }
  return found;
}

/** The file that begins at a place, where it is there whole, as it is, and has this name. @param knownBytes `null` where its header says how long it is */
async function fileAt(
  archive: Blob,
  at: number,
  path: string,
  knownBytes: number | null,
): Promise<{ file: ArchivedFile; nextAt: number } | null> {
  const name = new TextEncoder().encode(path);
  const head = new DataView(await archive.slice(at, at + HEADER.bytes + name.length).arrayBuffer());
  if (head.byteLength < HEADER.bytes + name.length || head.getUint32(0, true) !== HEADER.signature) return null;
  const isPacked = head.getUint16(HEADER.methodAt, true) !== 0;
  const flags = head.getUint16(HEADER.flagsAt, true);
  if (isPacked || (flags & IS_ENCRYPTED) !== 0) return null;
  if (head.getUint16(HEADER.nameAt, true) !== name.length) return null;
  if (name.some((byte, i) => head.getUint8(HEADER.bytes + i) !== byte)) return null;
  const from = at + HEADER.bytes + name.length + head.getUint16(HEADER.extraAt, true);
  const sizeBytes = knownBytes ?? head.getUint32(HEADER.sizeAt, true);
  const endsAt = from + sizeBytes;
  if (endsAt > archive.size) return null;
  const writeTo = (into: WritableStream<Uint8Array>) => archive.slice(from, endsAt).stream().pipeTo(into);
  return { file: { sizeBytes, writeTo }, nextAt: endsAt + ((flags & HAS_DESCRIPTOR) !== 0 ? DESCRIPTOR_BYTES : 0) };
}
