import type { Contents, Instrument } from '../lesson/content';
import { frameMatrix, placeInFrame, type Frame } from '../lesson/frame';
import { movedTo } from '../lesson/matrix';

/** One centimetre in points: an inch is 72 points and 2.54 cm. */
export const PT_PER_CM = 72 / 2.54;

interface PlacePt {
  xPt: number;
  yPt: number;
}

/** How large an instrument is when it is laid on the page. Compasses are as wide as their opening. */
export const FIRST_SIZE: Record<Instrument, { widthPt: number; heightPt: number }> = {
  ruler: { widthPt: 16 * PT_PER_CM, heightPt: 2.2 * PT_PER_CM },
  'set-square': { widthPt: 10 * PT_PER_CM, heightPt: 10 * PT_PER_CM },
  protractor: { widthPt: 12 * PT_PER_CM, heightPt: 6.6 * PT_PER_CM },
  compasses: { widthPt: 4 * PT_PER_CM, heightPt: 24 },
};

/** Below a protractor's line lies a strip to hold it by. */
export const PROTRACTOR_STRIP_PT = 0.6 * PT_PER_CM;

/** How far above its point and pencil the hinge of compasses stands. */
export const HINGE_RISE_PT = 84;

/** The radius of a protractor's arc: there is one, however flat its frame. */
export const protractorRadius = ({ widthPt, heightPt }: Frame): number =>
  Math.max(1, Math.min(widthPt / 2, heightPt - PROTRACTOR_STRIP_PT));

/**
 * The edges a pen follows, in the instrument's own place (its middle is 0, 0): the sides of a ruler or set square, the
 * line and the arc of a protractor, the circle of compasses about the left end of their frame.
 */
export type Edge =
  | { kind: 'line'; from: readonly [number, number]; to: readonly [number, number] }
  | { kind: 'arc'; middle: readonly [number, number]; radius: number; isHalf: boolean };

export function edgesOf({ instrument }: Contents['instrument'], frame: Frame): Edge[] {
  const [right, bottom] = [frame.widthPt / 2, frame.heightPt / 2];
  const [left, top] = [-right, -bottom];
  switch (instrument) {
    case 'ruler':
      return [
        { kind: 'line', from: [left, top], to: [right, top] },
        { kind: 'line', from: [left, bottom], to: [right, bottom] },
      ];
    case 'set-square':
      return [
        { kind: 'line', from: [left, bottom], to: [right, bottom] },
        { kind: 'line', from: [left, top], to: [left, bottom] },
        { kind: 'line', from: [left, top], to: [right, bottom] },
      ];
    case 'protractor': {
      const line = bottom - PROTRACTOR_STRIP_PT;
      return [
        { kind: 'line', from: [left, line], to: [right, line] },
        { kind: 'arc', middle: [0, line], radius: protractorRadius(frame), isHalf: true },
      ];
    }
    case 'compasses':
      return [{ kind: 'arc', middle: [left, 0], radius: frame.widthPt, isHalf: false }];
  }
}

/** Where a pen that follows an edge writes. `along` is how far along the edge that is, in points. */
export interface OnEdge extends PlacePt {
  edge: number;
  along: number;
}

/**
 * The place on an instrument's edge that is nearest to a pen.
 * @param only the edge that is being followed; `null` for whichever is nearest
 * @param reachPt how near the pen must be to an edge to be led by it
 * @returns `null` where no edge is near enough
 */
export function onEdge(
  content: Contents['instrument'],
  frame: Frame,
  pen: PlacePt,
  reachPt: number,
  only: number | null = null,
): OnEdge | null {
  const own = placeInFrame(frame, pen);
  let best: { edge: number; at: [number, number]; along: number; gap: number } | null = null;
  edgesOf(content, frame).forEach((one, edge) => {
    if (only !== null && edge !== only) return;
    const { at, along } = nearest(one, own);
    const gap = Math.hypot(own.xPt - at[0], own.yPt - at[1]);
    if (gap <= reachPt && (!best || gap < best.gap)) best = { edge, at, along, gap };
  });
  const found = best as { edge: number; at: [number, number]; along: number } | null;
  if (!found) return null;
  const onPage = movedTo(frameMatrix(frame), { xPt: found.at[0], yPt: found.at[1] });
  return { ...onPage, edge: found.edge, along: found.along };
}

function nearest(edge: Edge, { xPt, yPt }: PlacePt): { at: [number, number]; along: number } {
  if (edge.kind === 'line') {
    const [dx, dy] = [edge.to[0] - edge.from[0], edge.to[1] - edge.from[1]];
    const length = Math.hypot(dx, dy);
    const along = Math.min(length, Math.max(0, ((xPt - edge.from[0]) * dx + (yPt - edge.from[1]) * dy) / length));
    return { at: [edge.from[0] + (dx * along) / length, edge.from[1] + (dy * along) / length], along };
  }
  const [x, y] = edge.middle;
  let angle = Math.atan2(yPt - y, xPt - x);
  // A half circle lies above its line.
  if (edge.isHalf && angle > 0) angle = angle > Math.PI / 2 ? -Math.PI : 0;
  return { at: [x + Math.cos(angle) * edge.radius, y + Math.sin(angle) * edge.radius], along: angle * edge.radius };
}

/** A length on the page, in the page's scale, such as `3.4 km`. */
export function lengthText(lengthPt: number, { perCm, unit }: Contents['instrument']['scale']): string {
  const value = (lengthPt / PT_PER_CM) * perCm;
  // As it will be read: 9.999 is 10.0.
  const rounded = Number(value.toPrecision(3));
  const digits = rounded < 10 ? 2 : rounded < 100 ? 1 : 0;
  return `${value.toFixed(digits)} ${unit}`;
}

const halfDegrees = (rad: number): number => Math.round((rad * 360) / Math.PI) / 2;

/** An angle as whole and half degrees, counted anticlockwise from the right as in mathematics, from 0 to 360. */
export const angleText = (turnRad: number): string => `${(((halfDegrees(-turnRad) % 360) + 360) % 360) + 0}°`;

/** How far something has turned, either way, up to once around. */
export const sweepText = (sweptRad: number): string => `${Math.min(360, halfDegrees(Math.abs(sweptRad)))}°`;

/** What an instrument shows of itself: its turn, and of compasses how wide they are open. */
export function readingOf(content: Contents['instrument'], frame: Frame): string {
  const angle = angleText(frame.turnRad);
  return content.instrument === 'compasses' ? `r ${lengthText(frame.widthPt, content.scale)}` : angle;
}
