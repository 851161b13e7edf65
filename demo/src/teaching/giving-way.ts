import { curve, line } from '../pen/letters';
import { hull, sail, wind } from './boat';
import { BLUE, draw, NIGHT, RED, SEA, write, type Script } from './script';

const BOAT_PT = 88;
const port = { x: 190, y: 410 };
const starboard = { x: 470, y: 400 };
const windward = { x: 150, y: 210 };
const leeward = { x: 300, y: 330 };

/** Who keeps clear when two boats under sail meet (COLREGs, rules 12 and 13). */
export const givingWay: Script = {
  name: 'giving-way-lesson',
  title: 'Two boats under sail: who gives way?',
  taughtTo: 'Competent crew',
  pageCount: 2,
  tidied: {
    chapters: [
      { beat: 0, title: 'On different tacks' },
      { beat: 3, title: 'On the same tack' },
      { beat: 5, title: 'In doubt, and from behind' },
    ],
    thinkBefore: { beat: 2, seconds: 3 },
  },
  prepared: [
    { page: 0, act: write('Who gives way?', 72, 84, NIGHT, 30) },
    { page: 0, act: draw(BLUE, ...wind(330, 120, 190)) },
    { page: 1, act: draw(BLUE, ...wind(230, 60, 130)) },
  ],
  beats: [
    {
      say: 'Two boats under sail are about to meet. First look at the wind, then at their sails.',
      acts: [
        draw(NIGHT, hull(port, 45, BOAT_PT), hull(starboard, 315, BOAT_PT)),
        draw(SEA, sail(port, 45, 14, BOAT_PT), sail(starboard, 315, -14, BOAT_PT)),
      ],
    },
    {
      say: 'Hers comes over the port side. The other one has it from starboard.',
      acts: [write('port tack', 96, 500, RED, 22), write('starboard tack', 420, 500, SEA, 22)],
    },
    {
      say: 'On different tacks, port gives way to starboard. She turns early, and so that it is seen.',
      acts: [
        draw(
          RED,
          curve(226, 372, (x) => 372 - 26 * Math.sin(((x - 226) / 146) * Math.PI) + (x - 226) * 0.62),
        ),
        write('1  Port gives way', 580, 250, NIGHT, 24),
        write('    to starboard.', 580, 288, NIGHT, 24),
      ],
    },
    {
      say: 'Now both have the wind from the same side.',
      acts: [
        { turnTo: 1 },
        draw(NIGHT, hull(windward, 95, BOAT_PT), hull(leeward, 50, BOAT_PT)),
        draw(SEA, sail(windward, 95, 45, BOAT_PT), sail(leeward, 50, 14, BOAT_PT)),
      ],
    },
    {
      say: 'Then the one to windward keeps clear of the one to leeward.',
      acts: [
        draw(RED, line(190, 214, 250, 190)),
        write('2  Windward keeps', 500, 130, NIGHT, 24),
        write('    clear of leeward.', 500, 168, NIGHT, 24),
      ],
    },
    {
      say: 'If you are on port tack and cannot tell which tack the other is on, you give way.',
      acts: [write('3  In doubt, on port:', 500, 250, NIGHT, 24), write('    give way.', 500, 288, NIGHT, 24)],
    },
    {
      say: 'And whoever overtakes keeps clear of everybody.',
      acts: [write('Overtaking: keep clear.', 500, 380, RED, 24)],
    },
  ],
};
