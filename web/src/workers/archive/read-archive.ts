import {
  ARCHIVE,
  archivedLesson,
  archiveManifest,
  assetsOfArchived,
  type ArchivedLesson,
  type ArchiveManifest,
} from '@kite-trail/core/contract/archive';
import { LARGEST_UPLOAD_BYTES } from '@kite-trail/core/contract/upload';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import { salvage } from '@kite-trail/core/trail/salvage';
import { BlobReader, configure, ZipReader, type FileEntry } from '@zip.js/zip.js';
import { z } from 'zod';
import { filesBeforeTheEnd, type ArchivedFile } from './cut-off';

// It is read in a worker already.
configure({ useWebWorkers: false });

const MEGABYTE = 2 ** 20;
const LARGEST_LIST_BYTES = 96 * MEGABYTE;

/** Why an archive, or a lesson in it, cannot be read, in words a teacher can act on. */
export class ArchiveProblem extends Error {
  override readonly name = 'ArchiveProblem';
}

/** A lesson in an archive that was looked through. */
export interface FoundLesson {
  /** Without what is damaged. */
  lesson: ArchivedLesson;
  /** All it is made of, with where in the archive it is. */
  assets: { asset: AssetId; path: string; sizeBytes: number }[];
  /** What of it is damaged or missing. */
  lost: string[];
}

/** What is in an archive. */
export interface FoundArchive {
  lessons: FoundLesson[];
  classes: ArchiveManifest['classes'];
  /** Its end is missing: it was not copied to the end. */
  isCutOff: boolean;
  /** Lessons of which nothing can be saved, with why. */
  unread: { title: string; why: string }[];
}

/** An archive on this device, of which one file after the other is read: never more than one is in memory. */
export class Archive {
  private constructor(
    private readonly files: ReadonlyMap<string, ArchivedFile>,
    /** Its end is missing. */
    readonly isCutOff: boolean,
  ) {}

  /** @throws ArchiveProblem where nothing of it is an archive, or it is newer than this program */
  static async open(file: Blob): Promise<Archive> {
    try {
      const entries = await new ZipReader(new BlobReader(file)).getEntries();
      return new Archive(
        new Map(entries.flatMap((entry) => (entry.directory ? [] : [[entry.filename, fileOf(entry)]]))),
        false,
      );
    } catch {
      const left = await filesBeforeTheEnd(file, readManifest);
      if (left.size > 0) return new Archive(left, true);
      throw new ArchiveProblem(
        'This file is no archive, or its beginning or its end is missing. Copy or download it again.',
      );
    }
  }

  /**
   * Looks through all of it: is everything there, and as it was when the archive was made?
   * @param onDone hears which share has been looked through, from 0 to 1
   * @throws ArchiveProblem where nothing of it can be read
   */
  async look(onDone: (done: number) => void = () => {}): Promise<FoundArchive> {
    const list = this.files.get(ARCHIVE.manifest);
    if (!list) throw new ArchiveProblem('There are no lessons in this file: it is not one of our archives.');
    const manifest = await readManifest(list);
    const files = new Map(manifest.files.map((file) => [file.path, file]));
    const byHash = new Map(manifest.files.map((file) => [file.sha256, file]));
    const found: FoundArchive = { lessons: [], classes: manifest.classes, isCutOff: this.isCutOff, unread: [] };
    // Copies of a lesson name the same files.
    const looked = new Map<AssetId, Promise<boolean>>();
    const isWhole = (file: ArchiveManifest['files'][number]): Promise<boolean> => {
      const before = looked.get(file.sha256) ?? this.isWhole(file);
      looked.set(file.sha256, before);
      return before;
    };
    const total = manifest.files.reduce((sum, { sizeBytes }) => sum + sizeBytes, 1);
    let lookedBytes = 0;
    for (const { title, path } of manifest.lessons) {
      try {
        const told = files.get(`${path}/lesson.json`);
        const text = await this.read(`${path}/lesson.json`, told?.sizeBytes ?? 0, LARGEST_LIST_BYTES);
        if (!told || (await sha256(text)) !== told.sha256) throw new ArchiveProblem('Its list is damaged.');
        const lesson = parsed(archivedLesson, text, 'Its list cannot be read.');
        const missing = new Set<AssetId>();
        const assets: FoundLesson['assets'] = [];
        for (const asset of assetsOfArchived(lesson).keys()) {
          const file = byHash.get(asset);
          if (file && (await isWhole(file))) assets.push({ asset, path: file.path, sizeBytes: file.sizeBytes });
          else missing.add(asset);
          lookedBytes += file?.sizeBytes ?? 0;
          onDone(Math.min(1, lookedBytes / total));
        }
        const saved = salvage(lesson, missing);
        const left = assetsOfArchived(saved.lesson);
        found.lessons.push({ ...saved, assets: assets.filter(({ asset }) => left.has(asset)) });
      } catch (error) {
        if (!(error instanceof ArchiveProblem)) throw error;
        found.unread.push({ title, why: error.message });
      }
    }
    onDone(1);
    return found;
  }

  /** A file of it. @throws ArchiveProblem where it is not there, or not as large as it is said to be */
  file(path: string, sizeBytes: number): Promise<Uint8Array<ArrayBuffer>> {
    // Nothing that a lesson is made of is larger; what says to be is not read.
    return this.read(path, sizeBytes, LARGEST_UPLOAD_BYTES);
  }

  private async isWhole({ path, sizeBytes, sha256: hash }: ArchiveManifest['files'][number]): Promise<boolean> {
    try {
      return (await sha256(await this.file(path, sizeBytes))) === hash;
    } catch {
      return false;
    }
  }

  private read(path: string, sizeBytes: number, most: number): Promise<Uint8Array<ArrayBuffer>> {
    const file = this.files.get(path);
    if (!file) throw new ArchiveProblem(`“${path}” is missing.`);
    if (file.sizeBytes !== sizeBytes) throw new ArchiveProblem(`“${path}” is damaged.`);
    return readFile(path, file, most);
  }
}

const fileOf = (entry: FileEntry): ArchivedFile => ({
  sizeBytes: entry.uncompressedSize,
  writeTo: (into) => entry.getData(into, { checkOverlappingEntry: true }),
});

/** @throws ArchiveProblem where an archive's list is newer than this program, or none */
async function readManifest(file: ArchivedFile): Promise<ArchiveManifest> {
  const text = await readFile(ARCHIVE.manifest, file, LARGEST_LIST_BYTES);
  const about = parsed(z.object({ form: z.string(), version: z.number() }), text, 'Its list cannot be read.');
  if (about.form === ARCHIVE.form && about.version > ARCHIVE.version) {
    throw new ArchiveProblem('This archive was made by a newer Kite Trail. It can be read when this one is renewed.');
  }
  return parsed(archiveManifest, text, 'What this archive says is in it cannot be read.');
}

/** Reads as many bytes as a file says it has and no more, whatever it unpacks to. @throws ArchiveProblem where it is damaged */
async function readFile(
  path: string,
  { sizeBytes, writeTo }: ArchivedFile,
  most: number,
): Promise<Uint8Array<ArrayBuffer>> {
  const isDamaged = () => new ArchiveProblem(`“${path}” is damaged.`);
  if (sizeBytes > most) throw isDamaged();
  const bytes = new Uint8Array(sizeBytes);
  let filled = 0;
  const into = new WritableStream<Uint8Array>({
    write(chunk) {
      if (filled + chunk.length > sizeBytes) throw isDamaged();
      bytes.set(chunk, filled);
      filled += chunk.length;
    },
  });
  await writeTo(into).catch(() => {
    throw isDamaged();
  });
  if (filled !== sizeBytes) throw isDamaged();
  return bytes;
}

async function sha256(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
  return Array.from(hash, (byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** @throws ArchiveProblem where it is no JSON of this form */
function parsed<T>(schema: z.ZodType<T>, text: Uint8Array, problem: string): T {
  try {
    return schema.parse(JSON.parse(new TextDecoder().decode(text)));
  } catch {
    throw new ArchiveProblem(problem);
  }
}
