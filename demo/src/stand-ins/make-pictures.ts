import { newStroke } from '@kite-trail/core/lesson/piece';
import { writeFileSync } from 'node:fs';
import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas';
import { strokeOutline } from '@kite-trail/core/ink/outline';
import { textPaths } from '../pen/letters';
import { SimulatedPen } from '../pen/simulated-pen';
import { drawHarbour } from '../teaching/harbour-picture';

/** Makes the pictures that serve as a camera where there is none. `npm run stand-ins` makes them anew. */
const folder = new URL('../../../web/public/stand-ins/', import.meta.url);
const WIDTH = 1200;
const HEIGHT = 900;

function studentPage(): Buffer {
  const canvas = createCanvas(WIDTH, HEIGHT);
  const surface = canvas.getContext('2d');
  // A ruled sheet on a table, seen a little askew.
  surface.fillStyle = '#b9a68b';
  surface.fillRect(0, 0, WIDTH, HEIGHT);
  surface.setTransform(0.995, 0.05, -0.05, 0.995, 60, 10);
  surface.fillStyle = '#fbf9f1';
  surface.fillRect(60, 40, 1040, 860);
  surface.fillStyle = '#c8d5de';
  for (let y = 130; y < 880; y += 62) surface.fillRect(60, y, 1040, 2);
  surface.fillStyle = '#e2a79b';
  surface.fillRect(190, 40, 2, 860);
  const lines = ['Range = 4.8 - 1.2 = 3.4 m', '1/12 of it: 0.28 m', 'After hour 1: 4.8 - 0.28', '= 4.52 m'];
  lines.forEach((line, n) => handwrite(surface, line, 220, 182 + n * 124, 36));
  return canvas.toBuffer('image/png');
}

function handwrite(surface: SKRSContext2D, text: string, x: number, y: number, size: number): void {
  const hand = new SimulatedPen(8);
  surface.fillStyle = '#2b3a67';
  for (const path of textPaths(text, x, y, size)) {
    const pen = { kind: 'pen' as const, color: '#2b3a67', widthPt: 5 };
    const outline = strokeOutline(newStroke({ id: 'x' as never, z: 1, pen, points: hand.write(path) }));
    surface.beginPath();
    for (let i = 0; i < outline.length; i += 2) surface.lineTo(outline[i], outline[i + 1]);
    surface.closePath();
    surface.fill();
  }
}

/** A compass card: a tick every 5 degrees, longer ones every 30, the quarters as points of a star. */
function compassRose(): Buffer {
  const canvas = createCanvas(WIDTH, HEIGHT);
  const surface = canvas.getContext('2d');
  surface.fillStyle = '#f4efe2';
  surface.fillRect(0, 0, WIDTH, HEIGHT);
  surface.translate(WIDTH / 2, HEIGHT / 2);
  surface.strokeStyle = '#33486a';
  for (let degrees = 0; degrees < 360; degrees += 5) {
    surface.save();
    surface.rotate((degrees * Math.PI) / 180);
    surface.lineWidth = degrees % 30 === 0 ? 6 : 2.5;
    surface.beginPath();
    surface.moveTo(0, -400);
    surface.lineTo(0, degrees % 30 === 0 ? -350 : -372);
    surface.stroke();
    surface.restore();
  }
  for (let quarter = 0; quarter < 4; quarter++) {
    for (const side of [1, -1]) {
      surface.fillStyle = side > 0 ? '#33486a' : quarter === 0 ? '#c23b1e' : '#8fa3bd';
      surface.beginPath();
      surface.moveTo(0, -320);
      surface.lineTo(side * 62, -62);
      surface.lineTo(0, 0);
      surface.closePath();
      surface.fill();
    }
    surface.rotate(Math.PI / 2);
  }
  surface.lineWidth = 5;
  surface.beginPath();
  surface.arc(0, 0, 404, 0, 2 * Math.PI);
  surface.stroke();
  return canvas.toBuffer('image/png');
}

writeFileSync(new URL('harbour.png', folder), drawHarbour());
writeFileSync(new URL('student-page.png', folder), studentPage());
writeFileSync(new URL('compass-rose.png', folder), compassRose());
