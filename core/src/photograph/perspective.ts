import type { Corners } from './page-corners';
import type { PlacePx } from './pixels';

/**
 * Where the places of a flat square lie when it is photographed. The first six are of its plane, the last two of how far it is
 * tilted away.
 */
export type Perspective = readonly [
  a: number,
  b: number,
  c: number,
  d: number,
  e: number,
  f: number,
  g: number,
  h: number,
];

/**
 * The perspective by which the square from (0, 0) to (1, 1) is seen with these corners (P. Heckbert, "Fundamentals of Texture Mapping and
 * Image Warping", UC Berkeley, 1989, section 2.2.3).
 */
export function perspectiveOf([p0, p1, p2, p3]: Corners): Perspective {
  const [dx1, dx2] = [p1.xPx - p2.xPx, p3.xPx - p2.xPx];
  const [dy1, dy2] = [p1.yPx - p2.yPx, p3.yPx - p2.yPx];
  const [sx, sy] = [p0.xPx - p1.xPx + p2.xPx - p3.xPx, p0.yPx - p1.yPx + p2.yPx - p3.yPx];
  const turn = dx1 * dy2 - dx2 * dy1;
  const g = (sx * dy2 - dx2 * sy) / turn;
  const h = (dx1 * sy - sx * dy1) / turn;
  return [
    p1.xPx - p0.xPx + g * p1.xPx,
    p3.xPx - p0.xPx + h * p3.xPx,
    p0.xPx,
    p1.yPx - p0.yPx + g * p1.yPx,
    p3.yPx - p0.yPx + h * p3.yPx,
    p0.yPx,
    g,
    h,
  ];
}

/** Where a place of the square is seen. @param u across, from 0 to 1 @param v downwards, from 0 to 1 */
export function seenAt([a, b, c, d, e, f, g, h]: Perspective, u: number, v: number): PlacePx {
  const depth = g * u + h * v + 1;
  return { xPx: (a * u + b * v + c) / depth, yPx: (d * u + e * v + f) / depth };
}

/** A page that is narrower than this part of its length, or the other way about, is none. */
const NARROWEST = 1 / 6;

/**
 * How wide a rectangle is for its height whose corners are seen in a photograph that was not cropped (Z. Zhang, L. He, "Whiteboard
 * scanning and image enhancement", Digital Signal Processing 17 (2), 2007, section 3; the optical axis goes through the middle). Where it
 * is seen so straight that its perspective says nothing, it is as its sides are long.
 */
export function aspectOf(corners: Corners, { widthPx, heightPx }: { widthPx: number; heightPx: number }): number {
  const [p0, p1, p2, p3] = corners;
  const bySides = Math.sqrt(
    (distance(p0, p1) * distance(p3, p2)) / Math.max(1e-9, distance(p0, p3) * distance(p1, p2)),
  );
  // In Zhang's order: top left, top right, bottom left, bottom right; from the middle of the photograph.
  const [m1, m2, m3, m4] = [p0, p1, p3, p2].map(({ xPx, yPx }) => [xPx - widthPx / 2, yPx - heightPx / 2, 1] as const);
  const k2 = dot(cross(m1, m4), m3) / dot(cross(m2, m4), m3);
  const k3 = dot(cross(m1, m4), m2) / dot(cross(m3, m4), m2);
  const n2 = m1.map((one, i) => k2 * m2[i] - one);
  const n3 = m1.map((one, i) => k3 * m3[i] - one);
  const focal2 = -(n2[0] * n3[0] + n2[1] * n3[1]) / (n2[2] * n3[2]);
  // Lenses of phones and cameras see neither so wide nor so narrow; what is worked out beyond is noise.
  const longer = Math.max(widthPx, heightPx);
  if (!(focal2 > (0.4 * longer) ** 2 && focal2 < (4 * longer) ** 2)) return bounded(bySides);
  const lengthOf = (n: readonly number[]) => (n[0] ** 2 + n[1] ** 2) / focal2 + n[2] ** 2;
  return bounded(Math.sqrt(lengthOf(n2) / lengthOf(n3)));
}

const bounded = (aspect: number): number => Math.min(1 / NARROWEST, Math.max(NARROWEST, aspect));
const distance = (one: PlacePx, other: PlacePx): number => Math.hypot(one.xPx - other.xPx, one.yPx - other.yPx);
type Vector = readonly [number, number, number];
const cross = ([a, b, c]: Vector, [x, y, z]: Vector): Vector => [b * z - c * y, c * x - a * z, a * y - b * x];
const dot = (one: Vector, other: Vector): number => one[0] * other[0] + one[1] * other[1] + one[2] * other[2];
