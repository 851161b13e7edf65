import type { Corners } from '../photograph/page-corners';
import type { Pixels, PlacePx } from '../photograph/pixels';
import { seeded } from '../random/seeded';

/** A page that was photographed by a made-up camera, with what is known of it. */
export interface Photographed {
  photograph: Pixels;
  corners: Corners;
  aspect: number;
  /** How bright the page itself is at a place of it, from 0 to 1 each way. */
  pageAt(u: number, v: number): number;
}

const WIDTH_PX = 640;
const HEIGHT_PX = 480;
/** Two by two rays are sent through a pixel. */
const RAYS = [0.25, 0.75];

type Vector = readonly [number, number, number];

/**
 * Photographs a written page that lies turned and tilted on a desk, in uneven light. Rays go from a pinhole to the plane of the page, so
 * nothing here knows of perspectives as `photograph/perspective` has them.
 */
export function photographed(seed: number): Photographed {
  const random = seeded(seed);
  const between = (least: number, most: number) => least + (most - least) * random();
  const aspect = random() < 0.5 ? 1 / Math.SQRT2 : 8.5 / 11;
  const focalPx = WIDTH_PX * between(0.8, 1.3);
  const [turn, tiltX, tiltY] = [between(-0.6, 0.6), between(-0.5, 0.5), between(-0.5, 0.5)];
  const rotated = (point: Vector): Vector => aboutY(aboutX(aboutZ(point, turn), tiltX), tiltY);
  const [across, down] = [rotated([1, 0, 0]), rotated([0, 1, 0])];
  const away = (0.9 * focalPx) / (HEIGHT_PX * between(0.55, 0.72));
  const middle: Vector = [between(-0.05, 0.05), between(-0.05, 0.05), away];
  const at = (u: number, v: number): Vector =>
    plus(plus(middle, times(across, (u - 0.5) * aspect)), times(down, v - 0.5));
  const seen = ([x, y, z]: Vector): PlacePx => ({
    xPx: WIDTH_PX / 2 + (focalPx * x) / z,
    yPx: HEIGHT_PX / 2 + (focalPx * y) / z,
  });
  const pageAt = writtenPage(seeded(seed + 1));
  const deskAt = desk(seeded(seed + 2));
  const lightAt = light(seeded(seed + 3));
  const normal = crossed(across, down);
  const rgba = new Uint8ClampedArray(4 * WIDTH_PX * HEIGHT_PX);
  const tint = [between(0.94, 1), between(0.92, 1), between(0.8, 1)];
  for (let y = 0; y < HEIGHT_PX; y++) {
    for (let x = 0; x < WIDTH_PX; x++) {
      let sum = 0;
      for (const dy of RAYS) {
        for (const dx of RAYS) {
          const ray: Vector = [x + dx - WIDTH_PX / 2, y + dy - HEIGHT_PX / 2, focalPx];
          const hit = times(ray, dot(normal, middle) / dot(normal, ray));
          const onPlane = plus(hit, times(middle, -1));
          const [u, v] = [dot(onPlane, across) / aspect + 0.5, dot(onPlane, down) + 0.5];
          sum += u >= 0 && u <= 1 && v >= 0 && v <= 1 ? pageAt(u, v) : deskAt(u * aspect, v);
        }
      }
      const noise = (random() + random() + random() - 1.5) * 9;
      const bright = (sum / RAYS.length ** 2) * lightAt(x / WIDTH_PX, y / HEIGHT_PX) + noise;
      for (let channel = 0; channel < 3; channel++) rgba[4 * (y * WIDTH_PX + x) + channel] = bright * tint[channel];
      rgba[4 * (y * WIDTH_PX + x) + 3] = 255;
    }
  }
  const corners = [seen(at(0, 0)), seen(at(1, 0)), seen(at(1, 1)), seen(at(0, 1))] as const;
  return { photograph: { widthPx: WIDTH_PX, heightPx: HEIGHT_PX, rgba }, corners, aspect, pageAt };
}

/** Lines of writing, a table and a dark picture on white paper. */
function writtenPage(random: () => number): (u: number, v: number) => number {
  const words = Array.from({ length: 40 }, () => Array.from({ length: 60 }, () => random() < 0.55));
  const [left, top] = [0.15 + 0.4 * random(), 0.2 + 0.5 * random()];
  return (u, v) => {
    const isPicture = u > left && u < left + 0.3 && v > top && v < top + 0.16;
    if (isPicture) return 90 + 60 * Math.sin(20 * u);
    const isTable = u > 0.12 && u < 0.88 && Math.abs(v - 0.1) < 0.002;
    const [line, letter] = [Math.floor(v * 40), Math.floor(u * 60)];
    const isInk = u > 0.1 && u < 0.9 && v > 0.12 && v < 0.92 && words[line][letter] && (v * 40) % 1 < 0.35;
    return isTable || isInk ? 45 : 242;
  };
}

/** Wood or cloth, darker than paper. */
function desk(random: () => number): (x: number, y: number) => number {
  const [base, grain, turn] = [60 + 100 * random(), 10 + 25 * random(), 3 * random()];
  const isCloth = random() < 0.4;
  return (x, y) => {
    const along = x * Math.cos(turn) + y * Math.sin(turn);
    const across = y * Math.cos(turn) - x * Math.sin(turn);
    const wood = Math.sin(60 * along + 4 * Math.sin(3 * across));
    const cloth = Math.sign(Math.sin(22 * along)) * Math.sign(Math.sin(22 * across));
    return base + (grain * (isCloth ? cloth : wood)) / 2;
  };
}

/** A lamp at one side, a lens that is darker at its edges, and the soft shadow of whoever holds it. */
function light(random: () => number): (x: number, y: number) => number {
  const [turn, dim, shade, from] = [6.3 * random(), 0.25 + 0.25 * random(), 0.6 + 0.2 * random(), 0.2 + 0.6 * random()];
  return (x, y) => {
    const [dx, dy] = [x - 0.5, y - 0.5];
    const lamp = 1 - dim * (0.5 + dx * Math.cos(turn) + dy * Math.sin(turn));
    const lens = 1 - 0.5 * (dx * dx + dy * dy);
    const edge = 1 / (1 + Math.exp(-(x * 0.8 + y * 0.4 - from) * 22));
    return lamp * lens * (1 - (1 - shade) * edge);
  };
}

const aboutZ = ([x, y, z]: Vector, turn: number): Vector => [
  x * Math.cos(turn) - y * Math.sin(turn),
  x * Math.sin(turn) + y * Math.cos(turn),
  z,
];
const aboutX = ([x, y, z]: Vector, turn: number): Vector => [
  x,
  y * Math.cos(turn) - z * Math.sin(turn),
  y * Math.sin(turn) + z * Math.cos(turn),
];
const aboutY = ([x, y, z]: Vector, turn: number): Vector => [
  x * Math.cos(turn) + z * Math.sin(turn),
  y,
  z * Math.cos(turn) - x * Math.sin(turn),
];
const plus = (a: Vector, b: Vector): Vector => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
const times = (a: Vector, factor: number): Vector => [a[0] * factor, a[1] * factor, a[2] * factor];
const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const crossed = ([a, b, c]: Vector, [x, y, z]: Vector): Vector => [b * z - c * y, c * x - a * z, a * y - b * x];
