import { curve, ellipse, line } from '../pen/letters';
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
const rowY = (n: number) => 168 + n * 48;
const row = (n: number) => [
  write(HOURS[n].hour, 84, rowY(n), NIGHT, 18),
  write(HOURS[n].twelfths, 204, rowY(n), BLUE, 18),
  write(`+${HOURS[n].rise}`, 312, rowY(n), BLUE, 18),
  write(`${HOURS[n].height} m`, 444, rowY(n), SEA, 18),
];

/** The tide curve drawn beside the sums: from low water at the left to high water at the right. */
const tideY = (x: number) => 372 - 88 * (1 - Math.cos((Math.PI * (x - 642)) / 240));

export const tide: Script = {
  name: 'tide-lesson',
  title: 'The rule of twelfths',
  className: 'Day skippers',
  pageCount: 2,
  prepared: [],
  beats: [
    {
      say: 'How much water is over the sill at nine in the morning? The rule of twelfths gives a good estimate.',
      acts: [write('The rule of twelfths', 72, 84, NIGHT, 28), draw(RED, line(72, 104, 430, 104))],
    },
    {
      say: 'The tide table says: low water at six o’clock, one point two metres.',
      acts: [write('Low water   06:00   1.2 m', 72, 168)],
    },
    {
      say: 'And high water at twelve o’clock, four point eight metres.',
      acts: [write('High water  12:00   4.8 m', 72, 216)],
    },
    {
      say: 'The range is the difference of the two: four point eight minus one point two. That is three point six metres.',
      acts: [write('Range = 4.8 - 1.2 = 3.6 m', 72, 288, BLUE)],
    },
    {
      say: 'Now divide the range by twelve. One twelfth is nought point three metres.',
      acts: [write('1/12 = 3.6 / 12 = 0.3 m', 72, 336, BLUE), draw(STRAW, line(300, 328, 372, 328))],
    },
    {
      say: 'In the six hours between, the water rises by one, two, three, three, two and one twelfths. Slowly, then fast, then slowly again.',
      acts: [
        write('1   2   3   3   2   1', 96, 432, SEA, 26),
        draw(SEA, ellipse(236, 420, 78, 30)),
        write('= 12 twelfths', 408, 432, NIGHT, 18),
      ],
    },
    {
      say: 'Let us put that into a table, hour by hour.',
      acts: [
        { turnTo: 1 },
        write('Hour', 72, 96, NIGHT, 15),
        write('Twelfths', 168, 96, NIGHT, 15),
        write('Rise', 312, 96, NIGHT, 15),
        write('Height', 444, 96, NIGHT, 15),
        draw(NIGHT, line(60, 116, 552, 116)),
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
      acts: [draw(STRAW, line(436, 256, 520, 256)), write('09:00 → 3.0 m', 636, 96, RED, 22)],
    },
    {
      say: 'Drawn as a curve, you see it at once: in the middle two hours, half of all the water comes.',
      acts: [
        draw(NIGHT, line(636, 168, 636, 384), line(636, 384, 900, 384)),
        draw(SEA, curve(642, 882, tideY)),
        draw(RED, ellipse(762, tideY(762), 7, 7)),
        write('06', 630, 412, NIGHT, 13),
        write('09', 752, 412, NIGHT, 13),
        write('12', 872, 412, NIGHT, 13),
      ],
    },
  ],
};
