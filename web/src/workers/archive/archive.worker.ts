import { expose } from 'comlink';
import { Archive, type FoundArchive } from './read-archive';

let archive: Archive | null = null;

/** Reads an archive, away from the page: years of lessons are gigabytes, and all of it is looked at. */
const reader = {
  /** @throws ArchiveProblem */
  async look(file: Blob, onDone: (done: number) => void): Promise<FoundArchive> {
    archive = await Archive.open(file);
    return archive.look(onDone);
  },
  /** A file of the archive that was looked through. */
  async file(path: string, sizeBytes: number): Promise<Blob> {
    return new Blob([await archive!.file(path, sizeBytes)]);
  },
};
export type ArchiveReader = typeof reader;

expose(reader);
