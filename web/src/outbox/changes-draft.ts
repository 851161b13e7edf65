import { encodeHistory, type History } from '@kite-trail/core/formats/history-coding';
import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { withNext } from '@kite-trail/core/lesson/merge';
import type { EntryKey, Owed, OwedFile } from './entry';
import type { Outbox } from './outbox';

/** So long changes are gathered before they are written. */
const GATHERED_MS = 50;
/** So long changes are gathered before they are sent. */
const SENT_AFTER_MS = 600;

/** Gathers the changes of a lesson's pages into entries: kept here almost at once, and sent together. */
export class ChangesDraft {
  /** Whether there are changes that no entry holds for good yet. */
  onGathering: (isGathering: boolean) => void = () => {};
  private batch: Batch | null = null;
  private closing: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly outbox: Outbox,
    private readonly lesson: LessonId,
  ) {}

  /** @param revision the one it is made from */
  add(revision: number, mark: Mark, history: History): void {
    if (!this.batch) {
      this.batch = new Batch(this.outbox, this.lesson, revision);
      this.batch.closesAfter(SENT_AFTER_MS, () => void this.close());
      this.onGathering(true);
    }
    this.batch.add(mark, history);
  }

  /** What can be undone has changed after the change itself. */
  keepHistory(history: History): void {
    this.batch?.keepHistory(history);
  }

  /**
   * Settles when a file is kept here, which the changes to come may need. Entries wait for the files before them: what is being
   * gathered becomes an entry of its own, lest those changes join it and go before the file.
   */
  async addFile(file: OwedFile): Promise<void> {
    const adding = this.outbox.add(this.lesson, file);
    void this.close();
    await adding;
  }

  /** Settles when all changes so far are entries that can be sent. */
  async close(): Promise<void> {
    const { batch } = this;
    this.batch = null;
    if (batch) this.closing = Promise.all([this.closing, batch.close()]);
    await this.closing;
    if (!this.batch) this.onGathering(false);
  }
}

/** Changes that become one entry. */
class Batch {
  private marks: readonly Mark[] = [];
  private history: History | null = null;
  private key: EntryKey | null = null;
  private writing: Promise<void> = Promise.resolve();
  private isWriteDue = false;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly outbox: Outbox,
    private readonly lesson: LessonId,
    private readonly revision: number,
  ) {}

  closesAfter(ms: number, close: () => void): void {
    this.timer = setTimeout(close, ms);
  }

  add(mark: Mark, history: History): void {
    this.marks = withNext(this.marks, mark);
    this.keepHistory(history);
  }

  keepHistory(history: History): void {
    this.history = history;
    if (this.isWriteDue) return;
    this.isWriteDue = true;
    // Not in the frame in which the pen was lifted, and once for all that comes together.
    setTimeout(() => void this.write(), GATHERED_MS);
  }

  async close(): Promise<void> {
    clearTimeout(this.timer);
    await this.write();
    this.outbox.release(this.key!);
  }

  /** Writes follow one another; each has all there is by then. */
  private write(): Promise<void> {
    this.writing = this.writing.then(async () => {
      if (!this.isWriteDue) return;
      this.isWriteDue = false;
      const payload = { marks: encodeMarks(this.marks), history: encodeHistory(this.history!) };
      const owed: Owed = { kind: 'changes', revision: this.revision, payload };
      if (this.key === null) this.key = await this.outbox.add(this.lesson, owed, { isHeld: true });
      else await this.outbox.replace(this.key, owed);
    });
    return this.writing;
  }
}
