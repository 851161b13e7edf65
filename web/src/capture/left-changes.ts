import { encodeHistory, type History } from '@kite-trail/core/formats/history-coding';
import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { Journal, type JournalChanges } from './journal';

/** So long changes are gathered before they are written. */
const GATHERED_MS = 50;

const lockOf = (window: string) => `kite-trail-window-${window}`;

/** Keeps what a window has changed on this device until the server has it, so that closing the tab loses nothing. */
export class ChangesKeeper {
  private next: (() => Promise<void>) | null = null;
  private working: Promise<void> | null = null;

  constructor(
    private readonly lesson: LessonId,
    private readonly window: string,
  ) {
    // Held as long as this window is there: nobody else sends its changes meanwhile.
    void navigator.locks?.request(lockOf(window), { ifAvailable: true }, () => new Promise(() => {}));
  }

  keep(revision: number, changes: readonly Mark[], history: History): void {
    this.soon(async () => {
      const [marks, steps] = [encodeMarks(changes), encodeHistory(history)];
      const journal = await Journal.open();
      await journal.keepChanges({ lesson: this.lesson, window: this.window, revision, marks, history: steps });
    });
  }

  forget(): void {
    this.soon(async () => (await Journal.open()).forgetChanges(this.lesson, this.window));
  }

  /** Settles when the device has what it was last told. */
  async settled(): Promise<void> {
    while (this.working) await this.working;
  }

  /** One at a time; of what waits, only the last counts. */
  private soon(work: () => Promise<void>): void {
    this.next = work;
    this.working ??= this.workOff().finally(() => (this.working = null));
  }

  private async workOff(): Promise<void> {
    while (this.next) {
      // Not in the frame in which the pen was lifted, and once for all that comes together.
      await new Promise((resolve) => setTimeout(resolve, GATHERED_MS));
      const work = this.next;
      this.next = null;
      // A device without room or without a journal can keep nothing; the server gets it as before.
      await work().catch(() => {});
    }
  }
}

/** Hands over the changes of windows that are gone. What `send` cannot settle stays for the next time. */
export async function sendLeftChanges(
  lesson: LessonId,
  window: string,
  send: (left: JournalChanges) => Promise<void>,
): Promise<void> {
  if (!navigator.locks || !('indexedDB' in globalThis)) return;
  const journal = await Journal.open();
  for (const left of await journal.changes(lesson)) {
    const handOver = async () => {
      await send(left);
      await journal.forgetChanges(lesson, left.window);
    };
    if (left.window === window) await handOver();
    else
      await navigator.locks.request(lockOf(left.window), { ifAvailable: true }, (lock) => (lock ? handOver() : null));
  }
}
