import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import { api, Refused } from '../server/api';
import type { Journal, JournalTake } from './journal';

export type UploadState =
  'sending' | 'waiting-for-network' | 'waiting-for-sign-in' | { waiting: string } | 'done' | { failed: string };

const FIRST_WAIT_MS = 500;
const LONGEST_WAIT_MS = 8000;

/**
 * Hands a take over to the server: each part until it is safe there, then its end. A lost network, a stopped server or
 * an expired session only make it wait; after a reload it goes on where it was.
 */
export class Uploader {
  onState: (state: UploadState) => void = () => {};
  /** How many of the take's first parts are safe on the server. */
  onSafe: (parts: number) => void = () => {};
  private known: Set<number> | null = null;
  private available: number;
  private partCount: number | null = null;
  private wake: () => void = () => {};
  private stopped = false;

  constructor(
    private readonly journal: Journal,
    private take: JournalTake,
    available = 0,
  ) {
    this.available = available;
  }

  /** Another part is in the journal. */
  added(n: number): void {
    this.available = n + 1;
    this.wake();
  }

  /** The take has this many parts, and no more will come; it is as it ended. */
  ended(partCount: number, take = this.take): void {
    this.take = take;
    this.partCount = partCount;
    this.available = partCount;
    this.wake();
  }

  /** Somebody signed in again, or the network is back: try at once. */
  retry(): void {
    this.wake();
  }

  stop(): void {
    this.stopped = true;
    this.wake();
  }

  /** Runs until the take is the server's. @returns the lesson with the take in it, or `null` when stopped */
  async run(): Promise<LessonDocument | null> {
    let waitMs = FIRST_WAIT_MS;
    while (!this.stopped) {
      try {
        const lesson = await this.step();
        if (lesson) return lesson;
        waitMs = FIRST_WAIT_MS;
      } catch (error) {
        if (!(error instanceof Refused)) this.onState('waiting-for-network');
        else if (error.status === 401) this.onState('waiting-for-sign-in');
        else if (error.status >= 500) this.onState({ waiting: error.message });
        else {
          this.onState({ failed: error.message });
          throw error;
        }
        await this.pause(waitMs);
        waitMs = Math.min(LONGEST_WAIT_MS, waitMs * 2);
      }
    }
    return null;
  }

  private async step(): Promise<LessonDocument | null> {
    const { id } = this.take;
    if (!this.known) {
      await api.beginTake(this.take);
      this.known = new Set(await api.keptParts(id));
    }
    this.onState('sending');
    for (let n = 0; n < this.available && !this.stopped; n++) {
      if (this.known.has(n)) continue;
      const bytes = await this.journal.part(id, n);
      if (!bytes) break;
      await api.keepPart(id, n, bytes);
      this.known.add(n);
      this.onSafe(n + 1);
    }
    if (this.partCount !== null) {
      const { ended, plan } = this.take;
      const lesson = await api.endTake(id, { parts: this.partCount, recover: !ended, plan });
      await this.journal.forget(id);
      this.onState('done');
      return lesson;
    }
    if (this.known.size >= this.available && this.partCount === null) await this.pause();
    return null;
  }

  private pause(ms = Infinity): Promise<void> {
    return new Promise((resolve) => {
      this.wake = resolve;
      if (ms < Infinity) setTimeout(resolve, ms);
    });
  }
}

/** Held by the window that records a take, so that no other one takes it for abandoned. */
export const takeLock = (take: TakeId): string => `kite-trail-take-${take}`;
