import { ellipse, line, type Path } from '../pen/letters';
import { BLUE, draw, NIGHT, RED, SEA, STRAW, write, type Script } from './script';

const CENTRE = { x: 276, y: 282 };

/** A line of the rose at a bearing, clockwise from north. */
function ray(bearing: number, from: number, to: number): Path {
  const angle = ((bearing - 90) * Math.PI) / 180;
  return line(
    CENTRE.x + from * Math.cos(angle),
    CENTRE.y + from * Math.sin(angle),
    CENTRE.x + to * Math.cos(angle),
    CENTRE.y + to * Math.sin(angle),
  );
}

const ticks = Array.from({ length: 12 }, (_, i) => ray(i * 30, i % 3 === 0 ? 150 : 162, 176));

/** From true to compass: west is added, east is taken off. 075° T, 4° W, 079° M, 3° E, 076° C. */
export const compass: Script = {
  name: 'compass-lesson',
  title: 'From chart to compass',
  taughtTo: 'Day skippers',
  pageCount: 2,
  tidied: {
    chapters: [
      { beat: 0, title: 'The course on the chart' },
      { beat: 2, title: 'Variation and deviation' },
      { beat: 4, title: 'The sum' },
      { beat: 9, title: 'West is best' },
    ],
    thinkBefore: { beat: 7, seconds: 2 },
  },
  prepared: [
    { page: 0, act: { pen: { ...NIGHT, widthPt: 2 }, paths: [ellipse(CENTRE.x, CENTRE.y, 176, 176), ...ticks] } },
    { page: 0, act: write('N', 268, 92, NIGHT, 22) },
    { page: 0, act: write('E', 462, 290, NIGHT, 22) },
    { page: 0, act: write('S', 268, 490, NIGHT, 22) },
    { page: 0, act: write('W', 66, 290, NIGHT, 22) },
  ],
  beats: [
    {
      say: 'You have drawn your course on the chart. What do you steer by the compass?',
      acts: [write('Chart to compass', 516, 96, NIGHT, 28)],
    },
    {
      say: 'On the rose, the course runs a little north of east: zero seven five degrees, true.',
      acts: [draw(RED, ray(75, 0, 168)), write('075° T', 516, 174, RED, 30)],
    },
    {
      say: 'True north is where the meridians meet. The needle points elsewhere. Here, the chart says: variation four degrees west.',
      acts: [draw(BLUE, ray(356, 0, 150)), write('Variation 4° W', 516, 258, BLUE, 26)],
    },
    {
      say: 'And the iron on board pulls at the needle, too. On this heading, the card on the bulkhead says: deviation three degrees east.',
      acts: [write('Deviation 3° E', 516, 330, SEA, 26)],
    },
    {
      say: 'Write the five letters under each other: true, variation, magnetic, deviation, compass.',
      acts: [
        { turnTo: 1 },
        write('T', 96, 140, RED, 32),
        write('V', 96, 212, BLUE, 32),
        write('M', 96, 284, NIGHT, 32),
        write('D', 96, 356, SEA, 32),
        write('C', 96, 428, NIGHT, 32),
      ],
    },
    {
      say: 'True is zero seven five. The variation is four west.',
      acts: [write('075°', 212, 140, RED, 32), write('4° W', 212, 212, BLUE, 32)],
    },
    {
      say: 'Going from true to compass, west is added. Seventy-five and four is seventy-nine. That is the magnetic course.',
      acts: [write('+4', 356, 212, BLUE, 28), write('079°', 212, 284, NIGHT, 32)],
    },
    {
      say: 'The deviation is three east, and east is taken off. Seventy-six.',
      acts: [write('3° E', 212, 356, SEA, 32), write('-3', 356, 356, SEA, 28), write('076°', 212, 428, NIGHT, 32)],
    },
    {
      say: 'So steer zero seven six by the compass.',
      acts: [draw(STRAW, line(216, 413, 300, 413)), write('Steer 076°', 528, 428, RED, 28)],
    },
    {
      say: 'And to remember it: west is best, so it is more. East is least, so it is less.',
      acts: [write('West is best: +', 528, 168, BLUE, 26), write('East is least: -', 528, 228, SEA, 26)],
    },
  ],
};
