import { SHOWN } from '@kite-trail/core/contract/live';
import { encodeSightChange } from '@kite-trail/core/formats/sight-coding';
import { sightChange, wholeOf, type Sight } from '@kite-trail/core/live/sight';

/** What is shown goes out no more often than this: smooth for the eye, and easy on two hundred lines. */
const SHOWN_EVERY_MS = 33;

/** By which a page is shown. */
export interface Line {
  /** Whether something can be said just now; `onReady` is called when it can again. */
  readonly isReady: boolean;
  /** @param kind of {@link SHOWN} */
  say(kind: number, bytes: Uint8Array<ArrayBuffer>): void;
}

/**
 * Tells those who follow what is seen. Sights are compared with the last that was told: where the line is slow, or more happens than is
 * told, what lies between is left out, and nothing is lost.
 */
export class Shower {
  private told: Sight | null = null;
  private seen: Sight | null = null;
  private toldMs = -Infinity;
  private timer: ReturnType<typeof setTimeout> | null = null;

  constructor(private readonly line: Line) {}

  show(sight: Sight): void {
    this.seen = sight;
    this.goOn();
  }

  /** The line is there, or there again. @param isNew whoever hears on it knows nothing */
  ready(isNew: boolean): void {
    if (isNew) this.told = null;
    this.goOn();
  }

  /** Those who come later are told all that was told so far. */
  checkpoint(): void {
    if (this.told) this.line.say(SHOWN.checkpoint, encodeSightChange(wholeOf(this.told)));
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
    const change = this.told ? sightChange(this.told, this.seen) : wholeOf(this.seen);
    this.told = this.seen;
    if (!change) return;
    this.toldMs = performance.now();
    this.line.say(change.isWhole ? SHOWN.whole : SHOWN.change, encodeSightChange(change));
  }
}
