import { StreamTarget, type StreamTargetChunk } from 'mediabunny';
import { privateFolderOf, sealPrivate, unsealPrivate, type PrivatePath } from './private-files';

/** A file that is written by a worker, from its beginning. One that is closed before it is finished is none. */
export class PrivateWriter {
  private constructor(
    private readonly path: PrivatePath,
    private readonly file: FileSystemSyncAccessHandle,
  ) {}

  /** @throws DOMException where it is open elsewhere, there is no room, or this browser keeps no files */
  static async open(path: PrivatePath): Promise<PrivateWriter> {
    try {
      await unsealPrivate(path);
      const handle = await (await privateFolderOf(path, true)).getFileHandle(path.at(-1)!, { create: true });
      const file = await handle.createSyncAccessHandle();
      file.truncate(0);
      return new PrivateWriter(path, file);
    } catch (error) {
      throw told(error);
    }
  }

  /** Writes it all. @throws DOMException `QuotaExceededError` where the device has no room left */
  write(data: Uint8Array<ArrayBuffer>, at: number): void {
    let written = 0;
    try {
      written = this.file.write(data, { at });
    } catch (error) {
      throw told(error);
    }
    if (written < data.length) throw new DOMException(NO_ROOM, 'QuotaExceededError');
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
    await sealPrivate(this.path).catch((error) => Promise.reject(told(error)));
  }
}

const NO_ROOM = 'This device has no room left for it. Make room, and try again.';

/** What a browser says of a full device is for programmers. */
const told = (error: unknown): unknown =>
  (error as Error).name === 'QuotaExceededError' ? new DOMException(NO_ROOM, 'QuotaExceededError') : error;
