import type { Piece } from '@kite-trail/core/lesson/piece';
import type { PlacePt } from '../capture/pen-input';

/** What a tool needs to know of the board it works on. */
export interface BoardSight {
  toPage(clientX: number, clientY: number): PlacePt;
  /** How many CSS pixels a point of the page takes. */
  pxPerPt(): number;
  /** Something of the tool's own, shown above the page, has changed. */
  changed(): void;
}

/** A tool other than pens and erasers: what it does while one pointer is down. */
export interface BoardTool {
  /** @returns whether the tool follows the pointer from now on, until it is up */
  down(event: PointerEvent): boolean;
  move(event: PointerEvent): void;
  up(event: PointerEvent): void;
  /** A line that is being drawn, in points of the page. */
  line?(): readonly PlacePt[] | null;
  /** Pieces that are not on the page yet. */
  pieces?(): readonly Piece[];
}
