import type { Contents } from '../lesson/content';
import { CLOSE, CUBIC, LINE, MOVE, type Path } from './path';

/** A quarter of a circle of radius 1 as a cubic Bézier has its controls this far along (error below 0.03 %). */
const ARC = 0.5522847498;
const STAR_INNER = 0.45;
const HEAD_WIDTHS = 4.5;
const LEAST_HEAD_PT = 9;
/** A callout's box takes this share of the height, its tail the rest. */
const CALLOUT_BOX = 0.76;

const polygon = (corners: readonly (readonly [number, number])[]): Path => [
  ...corners.flatMap(([x, y], i) => [i === 0 ? MOVE : LINE, x, y]),
  CLOSE,
];

/** Corners on an ellipse that fills the box, the first at the top. */
function onEllipse(count: number, halfWidth: number, halfHeight: number, share: (n: number) => number = () => 1) {
  return Array.from({ length: count }, (_, n): [number, number] => {
    const angle = (2 * Math.PI * n) / count - Math.PI / 2;
    return [Math.cos(angle) * halfWidth * share(n), Math.sin(angle) * halfHeight * share(n)];
  });
}

/** A shape's outline in a box of this size, whose middle is 0, 0. */
export function figurePath({ figure, sides }: Contents['shape'], widthPt: number, heightPt: number): Path {
  const [right, bottom] = [widthPt / 2, heightPt / 2];
  const [left, top] = [-right, -bottom];
  switch (figure) {
    case 'line':
    case 'arrow':
      return [MOVE, left, 0, LINE, right, 0];
    case 'rectangle':
      return polygon([
        [left, top],
        [right, top],
        [right, bottom],
        [left, bottom],
      ]);
    case 'triangle':
      return polygon([
        [0, top],
        [right, bottom],
        [left, bottom],
      ]);
    case 'polygon':
      return polygon(onEllipse(sides, right, bottom));
    case 'star':
      return polygon(onEllipse(sides * 2, right, bottom, (n) => (n % 2 === 0 ? 1 : STAR_INNER)));
    case 'ellipse':
      return ellipsePath(right, bottom);
    case 'callout': {
      const foot = top + heightPt * CALLOUT_BOX;
      return polygon([
        [left, top],
        [right, top],
        [right, foot],
        [left + widthPt * 0.4, foot],
        [left + widthPt * 0.16, bottom],
        [left + widthPt * 0.2, foot],
        [left, foot],
      ]);
    }
  }
}

export function ellipsePath(rx: number, ry: number): Path {
  const [cx, cy] = [rx * ARC, ry * ARC];
  return [
    ...[MOVE, rx, 0],
    ...[CUBIC, rx, cy, cx, ry, 0, ry],
    ...[CUBIC, -cx, ry, -rx, cy, -rx, 0],
    ...[CUBIC, -rx, -cy, -cx, -ry, 0, -ry],
    ...[CUBIC, cx, -ry, rx, -cy, rx, 0],
    CLOSE,
  ];
}

/** The head of an arrow that ends at the right of its box. */
export function arrowHead(lineWidthPt: number, widthPt: number): Path {
  const length = Math.max(LEAST_HEAD_PT, lineWidthPt * HEAD_WIDTHS);
  return polygon([
    [widthPt / 2, 0],
    [widthPt / 2 - length, -length * 0.42],
    [widthPt / 2 - length * 0.8, 0],
    [widthPt / 2 - length, length * 0.42],
  ]);
}

/** Where the middle of a shape's text lies, as a share of its height from the middle. */
export const labelDrop = ({ figure }: Contents['shape']): number =>
  figure === 'callout' ? (CALLOUT_BOX - 1) / 2 : figure === 'triangle' ? 1 / 6 : 0;
