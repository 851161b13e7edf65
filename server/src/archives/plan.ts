import { open, rm, type FileHandle } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ARCHIVE, type ArchiveManifest } from '@kite-trail/core/contract/archive';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import type { Request, Response } from 'express';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import { ZipFile } from 'yazl';
import { chunksOf, named } from '../assets/assets';
import { answerRange } from '../http/byte-range';

type PlannedFile = ArchiveManifest['files'][number] & { open(): Readable };

/** Instants in a ZIP begin in 1980; with one for all, the same archive has the same bytes at every time. */
const AT = new Date(1980, 0, 1, 12);

/**
 * What goes into an archive, file by file, with its size and its hash, before the first byte is sent: so it says how large it is,
 * and a download that broke off goes on where it was. What is written for it waits in a file of its own on the server's
 * disk: an archive of years is never in memory as a whole, and what is edited while it is sent changes nothing in it.
 */
export class ArchivePlan {
  readonly lessons: ArchiveManifest['lessons'] = [];
  private classes: ArchiveManifest['classes'] = [];
  private readonly files: PlannedFile[] = [];
  private writtenBytes = 0;

  private constructor(
    private readonly db: Knex,
    private readonly spool: FileHandle,
  ) {}

  /** Makes an archive and sends it. @param plan says what is in it */
  static async send(
    { db, request, response }: { db: Knex; request: Request; response: Response },
    name: string,
    plan: (archive: ArchivePlan) => Promise<void>,
  ): Promise<void> {
    const path = join(tmpdir(), `kite-trail-${nanoid()}`);
    const archive = new ArchivePlan(db, await open(path, 'wx+'));
    try {
      await plan(archive);
      await archive.sendAs(name, request, response);
    } finally {
      await archive.spool.close();
      await rm(path, { force: true });
    }
  }

  /** Puts bytes into it. */
  async write(path: string, bytes: Uint8Array): Promise<void> {
    const start = this.writtenBytes;
    await this.spool.appendFile(bytes);
    this.writtenBytes += bytes.length;
    const open = () => Readable.from(this.spooled(start, bytes.length));
    this.files.push({ path, sizeBytes: bytes.length, sha256: named(bytes).id, open });
  }

  writeJson(path: string, value: unknown): Promise<void> {
    return this.write(path, Buffer.from(JSON.stringify(value, null, 1)));
  }

  /** Puts an asset into it. */
  add(path: string, asset: AssetId, sizeBytes: number): void {
    this.files.push({ path, sizeBytes, sha256: asset, open: () => Readable.from(chunksOf(this.db, asset)) });
  }

  /** Says which of its lessons are in which classes. */
  nameClasses(all: ArchiveManifest['classes']): void {
    const here = new Set(this.lessons.map(({ id }) => id));
    this.classes = all
      .map(({ name, color, lessons }) => ({ name, color, lessons: lessons.filter((id) => here.has(id)) }))
      .filter(({ lessons }) => lessons.length > 0);
  }

  private async *spooled(start: number, sizeBytes: number): AsyncGenerator<Buffer> {
    const STEP_BYTES = 256 * 1024;
    for (let at = 0; at < sizeBytes; at += STEP_BYTES) {
      const chunk = Buffer.alloc(Math.min(STEP_BYTES, sizeBytes - at));
      await this.spool.read(chunk, 0, chunk.length, start + at);
      yield chunk;
    }
  }

  private async sendAs(name: string, request: Request, response: Response): Promise<void> {
    const manifest: ArchiveManifest = {
      form: ARCHIVE.form,
      version: ARCHIVE.version,
      lessons: this.lessons,
      classes: this.classes,
      files: this.files.map(({ path, sizeBytes, sha256 }) => ({ path, sizeBytes, sha256 })),
    };
    const text = Buffer.from(JSON.stringify(manifest, null, 1));
    const etag = `"${named(text).id}"`;
    const zip = new ZipFile();
    const output = zip.outputStream as Readable;
    let source: Readable | null = null;
    // What cannot be read, such as an asset that has gone meanwhile, ends the download as broken off, never as whole.
    zip.on('error', (error: Error) => output.destroy(error));
    output.on('error', () => source?.destroy());
    output.on('close', () => source?.destroy());
    // Its sizes are known beforehand because nothing is packed: sound and pictures are as small as they get.
    const stored = { compress: false, mtime: AT };
    zip.addBuffer(text, ARCHIVE.manifest, stored);
    for (const { path, sizeBytes, open } of this.files) {
      zip.addReadStreamLazy(path, { ...stored, size: sizeBytes }, (use) => {
        source = open().on('error', (error) => zip.emit('error', error));
        use(null, source);
      });
    }
    response.attachment(name).type('application/zip');
    const range = answerRange(request, response, await sizeWhenEnded(zip), etag);
    // Whoever asks for its size alone, or goes away, is done.
    if (!range) output.destroy();
    else await pipeline(within(output, range.from, range.to), response);
  }
}

/** States that nothing more goes into a ZIP. @returns how large it will be; its types leave the number out */
const sizeWhenEnded = (zip: ZipFile): Promise<number> =>
  new Promise((resolve) => zip.end({ forceZip64Format: false, comment: '' }, resolve as () => void));

/** Of a stream, the bytes from a place on to another. */
async function* within(stream: Readable, from: number, to: number): AsyncGenerator<Uint8Array> {
  let at = 0;
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    const [start, end] = [Math.max(0, from - at), Math.min(chunk.length, to - at)];
    if (end > start) yield chunk.subarray(start, end);
    at += chunk.length;
    if (at >= to) return;
  }
}
