import { once } from 'node:events';
import { DRIVE_PART_BYTES } from '@kite-trail/core/contract/drive';
import type { TeacherId } from '@kite-trail/core/lesson/ids';
import { nanoid } from 'nanoid';
import { badInput, conflict, notFound } from '../http/problem';
import type { FileOnItsWay } from './shared-drive';

/** Whoever has gone away for this long does not come back to it. */
const GIVEN_UP_AFTER_MS = 2 * 60 * 1000;
const MOST_AT_ONCE = 4;

interface Sending {
  teacher: TeacherId;
  file: FileOnItsWay;
  sizeBytes: number;
  /** How many parts were passed on. */
  parts: number;
  /** Parts come one after the other. */
  last: Promise<void>;
  timer: NodeJS.Timeout;
}

/**
 * Files on their way from teachers to drives. Each part is passed on as it comes, so nothing of them is kept here; proxies with limits
 * see small requests, and a part whose answer was lost may come again.
 */
export class Sendings {
  private readonly all = new Map<string, Sending>();

  /** @param begin opens the file on the drive. @throws RequestProblem where too many are on their way */
  async begin(teacher: TeacherId, sizeBytes: number, begin: () => Promise<FileOnItsWay>): Promise<string> {
    const own = [...this.all.values()].filter((one) => one.teacher === teacher);
    if (own.length >= MOST_AT_ONCE) throw conflict('drive-busy', 'Wait until your other files are on the drive.');
    const id = nanoid();
    const file = await begin();
    // Whoever has dropped it meanwhile, or has come to its end, was first.
    const giveUp = () => void this.drop(teacher, id).catch(() => {});
    const timer = setTimeout(giveUp, GIVEN_UP_AFTER_MS).unref();
    this.all.set(id, { teacher, file, sizeBytes, parts: 0, last: Promise.resolve(), timer });
    return id;
  }

  /** Passes on the next part; one that came before is passed over. */
  async pass(teacher: TeacherId, id: string, n: number, bytes: Buffer): Promise<void> {
    const sending = this.found(teacher, id);
    const passed = sending.last.then(async () => {
      sending.timer.refresh();
      const { file, parts, sizeBytes } = sending;
      if (n < parts) return;
      const wantedBytes = Math.min(DRIVE_PART_BYTES, sizeBytes - n * DRIVE_PART_BYTES);
      if (n > parts || bytes.length !== wantedBytes) throw badInput('This part is not the next one of this file.');
      const { body } = file;
      if (body.destroyed) throw body.errored ?? notFound('file');
      sending.parts++;
      // Where the drive fails meanwhile, waiting ends with why.
      if (!body.write(bytes)) await once(body, 'drain');
      sending.timer.refresh();
    });
    sending.last = passed.catch(() => {});
    await passed;
  }

  /** All parts were passed on. @returns under which name the file lies there */
  async end(teacher: TeacherId, id: string): Promise<string> {
    const sending = this.found(teacher, id);
    await sending.last;
    if (sending.parts * DRIVE_PART_BYTES < sending.sizeBytes) throw badInput('The end of this file has not come.');
    this.forget(id);
    try {
      return await sending.file.end();
    } catch (error) {
      await sending.file.drop();
      throw error;
    }
  }

  async drop(teacher: TeacherId, id: string): Promise<void> {
    const { file } = this.found(teacher, id);
    this.forget(id);
    await file.drop();
  }

  private found(teacher: TeacherId, id: string): Sending {
    const sending = this.all.get(id);
    if (sending?.teacher !== teacher) throw notFound('file');
    return sending;
  }

  private forget(id: string): void {
    clearTimeout(this.all.get(id)?.timer);
    this.all.delete(id);
  }
}
