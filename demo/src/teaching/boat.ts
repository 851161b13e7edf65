import { line, type Path, type Point } from '../pen/letters';

/** Half of a hull from above, from the bow to the stern, in parts of its length. */
const SIDE: readonly Point[] = [
  { x: 0, y: -0.5 },
  { x: 0.13, y: -0.28 },
  { x: 0.18, y: 0 },
  { x: 0.17, y: 0.3 },
  { x: 0.11, y: 0.5 },
];
const MAST = -0.14;

/** A boat from above. @param heading in degrees, clockwise from the top of the page */
export function hull(at: Point, heading: number, lengthPt: number): Path {
  const port = [...SIDE].reverse().map(({ x, y }) => ({ x: -x, y }));
  return [...SIDE, ...port].map((point) => placed(point, at, heading, lengthPt));
}

/** Her sail. @param boom how far it is let out, in degrees: to starboard where the wind comes from port */
export function sail(at: Point, heading: number, boom: number, lengthPt: number): Path {
  const angle = (boom * Math.PI) / 180;
  const mast = placed({ x: 0, y: MAST }, at, heading, lengthPt);
  const end = placed({ x: 0.6 * Math.sin(angle), y: MAST + 0.6 * Math.cos(angle) }, at, heading, lengthPt);
  return line(mast.x, mast.y, end.x, end.y);
}

/** An arrow along which the wind blows, down the page. */
export const wind = (x: number, fromY: number, toY: number): Path[] => [
  line(x, fromY, x, toY),
  [
    { x: x - 9, y: toY - 15 },
    { x, y: toY },
    { x: x + 9, y: toY - 15 },
  ],
];

function placed({ x, y }: Point, at: Point, heading: number, lengthPt: number): Point {
  const turned = (heading * Math.PI) / 180;
  return {
    x: at.x + lengthPt * (x * Math.cos(turned) - y * Math.sin(turned)),
    y: at.y + lengthPt * (x * Math.sin(turned) + y * Math.cos(turned)),
  };
}
