import type { PlacePx } from '@kite-trail/core/paint/view';

/** What fingers do on the page: write as pens do, move it, or nothing, as a palm beside a pen that is writing. */
export type FingerUse = 'write' | 'move' | 'nothing';

interface FingerHandlers {
  use(): FingerUse;
  /** Whether a touch is on something that fingers take hold of in its own way. */
  isElsewhere(touch: PointerEvent): boolean;
  /** The fingers are to move the page: what they began to write is not meant. */
  began(): void;
  /** The fingers went from one place to another (of the screen), and apart by a factor. */
  moved(change: { factor: number; from: PlacePx; to: PlacePx }): void;
  /** Two fingers touched a place together, and went at once. */
  tapped?(at: PlacePx): void;
}

/** Fingers that come down within this time are meant together; later ones write by themselves. */
const TOGETHER_MS = 250;
/** Who has moved this far is writing. */
const STILL_PX = 14;

interface Touch extends PlacePx {
  beganMs: number;
  began: PlacePx;
}

/**
 * Fingers that move and enlarge the page: any, where a pen does the writing; else two that come down together. What they
 * do then is heard by nobody else.
 */
export class FingerInput {
  private readonly touches = new Map<number, Touch>();
  private isMoving = false;
  /** Two fingers are down that have not moved, since when. */
  private tap: { sinceMs: number; at: PlacePx } | null = null;
  private readonly abort = new AbortController();

  constructor(
    element: EventTarget,
    private readonly handlers: FingerHandlers,
  ) {
    for (const [type, handle] of [
      ['pointerdown', this.down],
      ['pointermove', this.move],
      ['pointerup', this.up],
      ['pointercancel', this.up],
    ] as const) {
      const listen = (event: Event) => {
        const touch = event as PointerEvent;
        // Whose a touch is, is decided when it comes down.
        const isOurs =
          this.touches.has(touch.pointerId) || (type === 'pointerdown' && !this.handlers.isElsewhere(touch));
        if (touch.pointerType !== 'touch' || !isOurs) return;
        handle.call(this, touch);
        if (this.isMoving) event.stopImmediatePropagation();
        if (this.touches.size === 0) this.isMoving = false;
      };
      element.addEventListener(type, listen, { signal: this.abort.signal, capture: true });
    }
  }

  dispose(): void {
    this.abort.abort();
  }

  private down({ pointerId, clientX, clientY, timeStamp }: PointerEvent): void {
    const place = { xPx: clientX, yPx: clientY };
    const [first] = this.touches.values();
    this.touches.set(pointerId, { ...place, began: place, beganMs: timeStamp });
    const isSecond = first !== undefined && this.touches.size === 2 && timeStamp - first.beganMs <= TOGETHER_MS;
    // A hand that rests beside a pen that writes may touch with two places.
    this.tap = isSecond && this.handlers.use() !== 'nothing' ? { sinceMs: timeStamp, at: this.span().middle } : null;
    if (this.isMoving) return;
    if (this.handlers.use() !== 'write') {
      this.isMoving = true;
      return;
    }
    if (this.touches.size !== 2) return;
    const isStill = Math.hypot(first.xPx - first.began.xPx, first.yPx - first.began.yPx) < STILL_PX;
    if (!isStill || timeStamp - first.beganMs > TOGETHER_MS) return;
    this.isMoving = true;
    this.handlers.began();
  }

  private move({ pointerId, clientX, clientY }: PointerEvent): void {
    const touch = this.touches.get(pointerId);
    if (!touch) return;
    const before = this.span();
    Object.assign(touch, { xPx: clientX, yPx: clientY });
    if (Math.hypot(clientX - touch.began.xPx, clientY - touch.began.yPx) >= STILL_PX) this.tap = null;
    if (!this.isMoving || this.touches.size > 2 || this.handlers.use() === 'nothing') return;
    const after = this.span();
    this.handlers.moved({ factor: after.apartPx / before.apartPx, from: before.middle, to: after.middle });
  }

  private up({ pointerId, type, timeStamp }: PointerEvent): void {
    this.touches.delete(pointerId);
    if (this.touches.size > 0 || !this.tap) return;
    const { sinceMs, at } = this.tap;
    this.tap = null;
    if (type === 'pointerup' && timeStamp - sinceMs <= TOGETHER_MS) this.handlers.tapped?.(at);
  }

  private span(): { middle: PlacePx; apartPx: number } {
    const [one, other = one] = this.touches.values();
    return {
      middle: { xPx: (one.xPx + other.xPx) / 2, yPx: (one.yPx + other.yPx) / 2 },
      apartPx: Math.max(1, Math.hypot(one.xPx - other.xPx, one.yPx - other.yPx)),
    };
  }
}
