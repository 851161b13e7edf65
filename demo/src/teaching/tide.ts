import { curve, ellipse, line, textWidth } from '../pen/letters';
import { BLUE, draw, NIGHT, RED, SEA, STRAW, write, type Script } from './script';

/** Hours after low water, the share of the range in twelfths, and the height then: 1.2 m with a range of 3.6 m. */
const HOURS = [
  { hour: '1', twelfths: '1', rise: '0.3', height: '1.5' },
  { hour: '2', twelfths: '2', rise: '0.6', height: '2.1' },
  { hour: '3', twelfths: '3', rise: '0.9', height: '3.0' },
  { hour: '4', twelfths: '3', rise: '0.9', height: '3.9' },
  { hour: '5', twelfths: '2', rise: '0.6', height: '4.5' },
  { hour: '6', twelfths: '1', rise: '0.3', height: '4.8' },
];
const TITLE = 'The rule of twelfths';
const TWELFTH = '1/12 = 3.6 / 12 = 0.3 m';

const rowY = (n: number) => 170 + n * 60;
const row = (n: number) => [
  write(HOURS[n].hour, 84, rowY(n), NIGHT, 26),
  write(HOURS[n].twelfths, 204, rowY(n), BLUE, 26),
  write(`+${HOURS[n].rise}`, 318, rowY(n), BLUE, 26),
  write(`${HOURS[n].height} m`, 450, rowY(n), SEA, 26),
];

/** The tide curve drawn beside the sums: from low water at the left to high water at the right. */
const tideY = (x: number) => 372 - 88 * (1 - Math.cos((Math.PI * (x - 642)) / 240));

export const tide: Script = {
  name: 'tide-lesson',
  title: 'The rule of twelfths',
  taughtTo: 'Day skippers',
  pageCount: 2,
  prepared: [],
  beats: [
    {
      say: 'How much water is over the sill at nine in the morning? The rule of twelfths gives a good estimate.',
      acts: [write(TITLE, 72, 90, NIGHT, 32), draw(RED, line(72, 112, 72 + textWidth(TITLE, 32), 112))],
    },
    {
      say: 'The tide table says: low water at six o’clock, one point two metres.',
      acts: [write('Low water    06:00   1.2 m', 72, 186, NIGHT, 24)],
    },
    {
      say: 'And high water at twelve o’clock, four point eight metres.',
      acts: [write('High water   12:00   4.8 m', 72, 234, NIGHT, 24)],
    },
    {
      say: 'The range is the difference of the two: four point eight minus one point two. That is three point six metres.',
      acts: [write('Range = 4.8 - 1.2 = 3.6 m', 72, 306, BLUE, 24)],
    },
    {
      say: 'Now divide the range by twelve. One twelfth is nought point three metres.',
      acts: [
        write(TWELFTH, 72, 354, BLUE, 24),
        draw(STRAW, line(72 + textWidth('1/12 = 3.6 / 12 = ', 24), 343, 72 + textWidth(TWELFTH, 24), 343)),
      ],
    },
    {
      say: 'In the six hours between, the water rises by one, two, three, three, two and one twelfths. Slowly, then fast, then slowly again.',
      acts: [
        ...[1, 2, 3, 3, 2, 1].map((share, i) => write(String(share), 96 + i * 84, 450, SEA, 34)),
        draw(RED, ellipse(318, 434, 88, 42)),
        write('= 12', 612, 450, NIGHT, 30),
      ],
    },
    {
      say: 'Let us put that into a table, hour by hour.',
      acts: [
        { turnTo: 1 },
        write('Hour', 66, 90, NIGHT, 19),
        write('Twelfths', 162, 90, NIGHT, 19),
        write('Rise', 324, 90, NIGHT, 19),
        write('Height', 450, 90, NIGHT, 19),
        draw(NIGHT, line(60, 112, 564, 112)),
      ],
    },
    { say: 'After the first hour: one twelfth, so plus nought point three. One point five metres.', acts: row(0) },
    { say: 'The second hour: two twelfths. Two point one metres.', acts: row(1) },
    { say: 'The third hour: three twelfths, nought point nine. That makes three metres.', acts: row(2) },
    { say: 'The fourth hour is as fast: three point nine.', acts: row(3) },
    { say: 'Then it slows down. Four point five.', acts: row(4) },
    { say: 'And at high water, four point eight, just as the table said. So the sum is right.', acts: row(5) },
    {
      say: 'Nine o’clock is three hours after low water: three metres of water.',
      acts: [draw(STRAW, line(446, 279, 556, 279)), write('09:00 → 3.0 m', 618, 96, RED, 26)],
    },
    {
      say: 'Drawn as a curve, you see it at once: in the middle two hours, half of all the water comes.',
      acts: [
        draw(NIGHT, line(636, 168, 636, 384), line(636, 384, 900, 384)),
        draw(SEA, curve(642, 882, tideY)),
        draw(RED, ellipse(762, tideY(762), 7, 7)),
        write('06', 630, 420, NIGHT, 18),
        write('09', 750, 420, NIGHT, 18),
        write('12', 870, 420, NIGHT, 18),
      ],
    },
  ],
};
