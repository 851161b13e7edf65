import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas';

export const HARBOUR_PX = { width: 1520, height: 880 };
const LAND = '#efdfae';
const DRIES = '#bcd6b4';
const SHALLOW = '#a9d3e4';
const DEEP = '#eef6f7';
const INK = '#33486a';
const CANS: [number, number][] = [
  [836, 700],
  [940, 470],
];
const CONES: [number, number][] = [
  [986, 700],
  [1044, 470],
];

/** A made-up harbour as charts show them: land, what dries, depths by their tint, a channel with its marks. */
export function drawHarbour(): Buffer {
  const canvas = createCanvas(HARBOUR_PX.width, HARBOUR_PX.height);
  const surface = canvas.getContext('2d');
  surface.fillStyle = DEEP;
  surface.fillRect(0, 0, HARBOUR_PX.width, HARBOUR_PX.height);
  coast(surface, SHALLOW, 150);
  coast(surface, DRIES, 62);
  coast(surface, LAND, 0);
  channel(surface);
  surface.strokeStyle = INK;
  surface.lineWidth = 3;
  surface.strokeRect(1.5, 1.5, HARBOUR_PX.width - 3, HARBOUR_PX.height - 3);
  return canvas.toBuffer('image/png');
}

/** The coast, or a line of equal depth some way off it: land to the north and east, an inlet between two heads. */
function coast(surface: SKRSContext2D, color: string, off: number): void {
  surface.fillStyle = color;
  surface.strokeStyle = INK;
  surface.lineWidth = off === 0 ? 3 : 1.2;
  for (const side of [westHead(off), eastHead(off)]) {
    surface.beginPath();
    for (const [x, y] of side) surface.lineTo(x, y);
    surface.closePath();
    surface.fill();
    surface.stroke();
  }
}

const ripple = (t: number, size: number) => size * (Math.sin(t * 9) + 0.6 * Math.sin(t * 23 + 1));

function westHead(off: number): [number, number][] {
  const line: [number, number][] = [[-10, -10]];
  for (let t = 0; t <= 1; t += 0.01) {
    line.push([t * (860 + off * 0.5), 150 + off + 250 * t * t + ripple(t, 16)]);
  }
  for (let t = 1; t >= 0; t -= 0.02) line.push([860 + off * 0.5 + 120 * (1 - t), 400 * t + off * t + ripple(t, 9)]);
  line.push([980, -10]);
  return line;
}

function eastHead(off: number): [number, number][] {
  const line: [number, number][] = [
    [HARBOUR_PX.width + 10, -10],
    [1150 - off * 0.35, -10],
  ];
  for (let t = 0; t <= 1; t += 0.02) line.push([1150 - off * 0.35 + 30 * t + ripple(t, 10), 430 * t]);
  for (let t = 0; t <= 1; t += 0.01) {
    line.push([1180 - off * 0.5 + 360 * t, 430 + off + 270 * Math.sqrt(t) + ripple(t, 14)]);
  }
  line.push([HARBOUR_PX.width + 10, HARBOUR_PX.height]);
  return line;
}

/** A dashed leading line, and marks of IALA region A: red cans to port coming in, green cones to starboard. */
function channel(surface: SKRSContext2D): void {
  surface.strokeStyle = '#8a3b2a';
  surface.lineWidth = 3;
  surface.setLineDash([22, 12]);
  surface.beginPath();
  surface.moveTo(860, 870);
  surface.lineTo(1082, 60);
  surface.stroke();
  surface.setLineDash([]);
  for (const [x, y] of CANS) mark(surface, x, y, '#c23b1e', 'can');
  for (const [x, y] of CONES) mark(surface, x, y, '#12776f', 'cone');
}

function mark(surface: SKRSContext2D, x: number, y: number, color: string, shape: 'can' | 'cone'): void {
  surface.fillStyle = color;
  surface.strokeStyle = INK;
  surface.lineWidth = 2;
  surface.beginPath();
  if (shape === 'can') surface.rect(x - 13, y - 34, 26, 34);
  else {
    surface.moveTo(x, y - 38);
    surface.lineTo(x + 17, y);
    surface.lineTo(x - 17, y);
    surface.closePath();
  }
  surface.fill();
  surface.stroke();
  surface.beginPath();
  surface.arc(x, y + 6, 5, 0, 2 * Math.PI);
  surface.stroke();
}
