import type { PlacePx } from '@kite-trail/core/paint/view';

export interface PinchHandlers {
  /** Two fingers have come down together: what the first one began is not meant. */
  began(): void;
  /** The fingers went from one place to another (of the screen), and apart by a factor. */
  moved(change: { factor: number; from: PlacePx; to: PlacePx }): void;
}

/** Fingers that come down within this time are meant together; later ones write by themselves. */
const TOGETHER_MS = 250;
/** Who has moved this far is writing. */
const STILL_PX = 14;

interface Touch extends PlacePx {
  beganMs: number;
  began: PlacePx;
}

/** Two fingers that come down together move and enlarge the page. While they do, nobody else hears of touches. */
export class PinchInput {
  private readonly touches = new Map<number, Touch>();
  private isPinching = false;
  private readonly abort = new AbortController();

  constructor(
    element: HTMLElement,
    private readonly handlers: PinchHandlers,
  ) {
    for (const [type, handle] of [
      ['pointerdown', this.down],
      ['pointermove', this.move],
      ['pointerup', this.up],
      ['pointercancel', this.up],
    ] as const) {
      const listen = (event: PointerEvent) => {
        if (event.pointerType !== 'touch') return;
        handle.call(this, event);
        if (this.isPinching) event.stopImmediatePropagation();
        if (this.touches.size === 0) this.isPinching = false;
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
    if (this.isPinching || this.touches.size !== 2) return;
    const isStill = Math.hypot(first.xPx - first.began.xPx, first.yPx - first.began.yPx) < STILL_PX;
    if (!isStill || timeStamp - first.beganMs > TOGETHER_MS) return;
    this.isPinching = true;
    this.handlers.began();
  }

  private move({ pointerId, clientX, clientY }: PointerEvent): void {
    const touch = this.touches.get(pointerId);
    if (!touch) return;
    const before = this.span();
    Object.assign(touch, { xPx: clientX, yPx: clientY });
    if (!this.isPinching || this.touches.size !== 2) return;
    const after = this.span();
    this.handlers.moved({ factor: after.apartPx / before.apartPx, from: before.middle, to: after.middle });
  }

  private up({ pointerId }: PointerEvent): void {
    this.touches.delete(pointerId);
  }

  private span(): { middle: PlacePx; apartPx: number } {
    const [one, other = one] = this.touches.values();
    return {
      middle: { xPx: (one.xPx + other.xPx) / 2, yPx: (one.yPx + other.yPx) / 2 },
      apartPx: Math.max(1, Math.hypot(one.xPx - other.xPx, one.yPx - other.yPx)),
    };
  }
}
