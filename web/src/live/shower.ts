import { LARGEST_SIGHT_BYTES, SHOWN, type ShownKind } from '@kite-trail/core/contract/live';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { encodeSightChange } from '@kite-trail/core/formats/sight-coding';
import { sightChange, wholeOf, type Sight, type SightChange } from '@kite-trail/core/live/sight';

/** What is shown goes out no more often than this: smooth for the eye, and easy on two hundred lines. */
const SHOWN_EVERY_MS = 33;

/** By which a page is shown. */
export interface Line {
  /** Whether something can be said just now; `onReady` is called when it can again. */
  readonly isReady: boolean;
  say(kind: ShownKind, bytes: Uint8Array<ArrayBuffer>): void;
}

/**
 * Tells those who follow what is seen. Sights are compared with the last that was told: where the line is slow, or more happens than is
 * told, what lies between is left out, and nothing is lost. What is seen is worked out when it is told: not while somebody writes.
 */
export class Shower {
  /** More lies on the page than can be told. */
  onTooMuch: () => void = () => {};
  private told: Sight | null = null;
  private seen: (() => Sight) | null = null;
  private toldMs = -Infinity;
  private isCheckpointWanted = false;
  /** A page that was too much is not told of again. */
  private tooMuchOn: PageId | null = null;
  private timer: ReturnType<typeof setTimeout> | null = null;

  /** @param mostBytes that can be told at once */
  constructor(
    private readonly line: Line,
    private readonly mostBytes = LARGEST_SIGHT_BYTES,
  ) {}

  /** Something else is to be seen. */
  show(seen: () => Sight): void {
    this.seen = seen;
    this.goOn();
  }

  /** The line is there, or there again. @param isNew whoever hears on it knows nothing */
  ready(isNew: boolean): void {
    if (isNew) this.told = null;
    this.goOn();
  }

  /** Those who come later are to be told all that was told so far. */
  checkpoint(): void {
    this.isCheckpointWanted = true;
    this.goOn();
  }

  stop(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = this.seen = null;
  }

  private goOn(): void {
    if (this.timer || !this.seen || !this.line.isReady) return;
    const waitMs = Math.max(0, this.toldMs + SHOWN_EVERY_MS - performance.now());
    this.timer = setTimeout(() => this.tell(), waitMs);
  }

  private tell(): void {
    this.timer = null;
    // What comes of it is told when the line is ready.
    if (!this.seen || !this.line.isReady) return;
    if (this.isCheckpointWanted && this.told) {
      this.say(SHOWN.checkpoint, wholeOf(this.told));
      // What has changed since comes after it.
      return this.goOn();
    }
    const now = this.seen();
    if (now.state.page.id === this.tooMuchOn) return;
    const change = this.told ? sightChange(this.told, now) : wholeOf(now);
    this.told = now;
    if (change) this.say(change.isWhole ? SHOWN.whole : SHOWN.change, change);
  }

  private say(kind: ShownKind, change: SightChange): void {
    this.toldMs = performance.now();
    if (kind !== SHOWN.change) this.isCheckpointWanted = false;
    const bytes = encodeSightChange(change);
    if (bytes.length <= this.mostBytes) return this.line.say(kind, bytes);
    this.tooMuchOn = this.told!.state.page.id;
    this.told = null;
    this.onTooMuch();
  }
}
