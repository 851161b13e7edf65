/**
 * Where a point goes: `x' = a·x + c·y + e`, `y' = b·x + d·y + f`, in points, as canvas transforms are written (W3C
 * Geometry Interfaces, DOMMatrix).
 */
export type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

export const IDENTITY: Matrix = [1, 0, 0, 1, 0, 0];

interface PlacePt {
  xPt: number;
  yPt: number;
}

export const moveBy = (xPt: number, yPt: number): Matrix => [1, 0, 0, 1, xPt, yPt];

/** Turns clockwise about a place. */
export function turnAbout({ xPt, yPt }: PlacePt, turnRad: number): Matrix {
  const [cos, sin] = [Math.cos(turnRad), Math.sin(turnRad)];
  return [cos, sin, -sin, cos, xPt - cos * xPt + sin * yPt, yPt - sin * xPt - cos * yPt];
}

/** Scales about a place; a negative factor mirrors. */
export const scaleAbout = ({ xPt, yPt }: PlacePt, across: number, down = across): Matrix => [
  across,
  0,
  0,
  down,
  xPt - across * xPt,
  yPt - down * yPt,
];

/** First `inner`, then `outer`. */
export function composed(outer: Matrix, inner: Matrix): Matrix {
  const [a, b, c, d, e, f] = outer;
  const [p, q, r, s, t, u] = inner;
  return [a * p + c * q, b * p + d * q, a * r + c * s, b * r + d * s, a * t + c * u + e, b * t + d * u + f];
}

/** Whether a matrix can be taken back: it has flattened nothing. */
export function isInvertible([a, b, c, d]: Matrix): boolean {
  const area = a * d - b * c;
  return Number.isFinite(1 / area);
}

/** What takes a matrix back. @throws RangeError where it has flattened everything */
export function inverted([a, b, c, d, e, f]: Matrix): Matrix {
  const area = a * d - b * c;
  if (area === 0) throw new RangeError('This has no size left, so it cannot be put back.');
  return [d / area, -b / area, -c / area, a / area, (c * f - d * e) / area, (b * e - a * f) / area];
}

export const movedTo = ([a, b, c, d, e, f]: Matrix, { xPt, yPt }: PlacePt): PlacePt => ({
  xPt: a * xPt + c * yPt + e,
  yPt: b * xPt + d * yPt + f,
});

/** Where a line of x, y pairs goes. */
export function movedLine([a, b, c, d, e, f]: Matrix, line: ArrayLike<number>): Float64Array {
  const moved = new Float64Array(line.length);
  for (let i = 0; i < line.length; i += 2) {
    moved[i] = a * line[i] + c * line[i + 1] + e;
    moved[i + 1] = b * line[i] + d * line[i + 1] + f;
  }
  return moved;
}

/** How much larger areas become, as a factor of length. */
export const scaleOfMatrix = ([a, b, c, d]: Matrix): number => Math.sqrt(Math.abs(a * d - b * c));

/** The turn, clockwise, of what lay along the page. */
export const turnOfMatrix = ([a, b]: Matrix): number => Math.atan2(b, a);

export const isMirroring = ([a, b, c, d]: Matrix): boolean => a * d - b * c < 0;

/** Values as they are stored: single-precision numbers. */
export const storableMatrix = (matrix: Matrix): Matrix =>
  matrix.map((value) => Math.fround(value) + 0) as unknown as Matrix;
