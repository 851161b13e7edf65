import { ellipse, line, type Path } from '../pen/letters';
import { draw, NIGHT, RED, SEA, write, type Script } from './script';

const can: Path = [
  { x: 180, y: 300 },
  { x: 180, y: 216 },
  { x: 252, y: 216 },
  { x: 252, y: 300 },
  { x: 178, y: 300 },
];
const cone: Path = [
  { x: 640, y: 300 },
  { x: 684, y: 210 },
  { x: 728, y: 300 },
  { x: 638, y: 300 },
];
const water = (y: number): Path =>
  Array.from({ length: 80 }, (_, i) => ({ x: 72 + i * 10, y: y + 4 * Math.sin(i / 1.6) }));

/** Prepared for the next class, not recorded yet: the lateral marks of IALA region A, coming in from sea. */
export const buoys: Script = {
  name: 'buoys-lesson',
  title: 'Coming in from sea: lateral marks',
  taughtTo: 'Competent crew',
  pageCount: 2,
  prepared: [
    { page: 0, act: write('Coming in from sea', 72, 84, NIGHT, 30) },
    { page: 0, act: draw(RED, can, line(216, 216, 216, 190)) },
    { page: 0, act: draw(SEA, cone, line(684, 210, 684, 190)) },
    { page: 0, act: draw({ ...SEA, color: '#2459a8' }, water(318)) },
    { page: 0, act: write('port: red can', 108, 390, RED, 24) },
    { page: 0, act: write('starboard: green cone', 520, 390, SEA, 24) },
    { page: 0, act: write('Which side do you leave each on?', 72, 474, NIGHT, 26) },
    { page: 1, act: write('Your turn: mark the safe way in', 72, 84, NIGHT, 28) },
    { page: 1, act: draw(RED, ellipse(260, 220, 9, 9), ellipse(420, 290, 9, 9), ellipse(600, 250, 9, 9)) },
    { page: 1, act: draw(SEA, ellipse(240, 340, 9, 9), ellipse(410, 410, 9, 9), ellipse(610, 370, 9, 9)) },
  ],
  beats: [],
};
