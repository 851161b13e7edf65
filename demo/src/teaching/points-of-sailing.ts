import { line, textWidth, type Point } from '../pen/letters';
import { hull, sail, wind } from './boat';
import { BLUE, draw, NIGHT, RED, SEA, write, type Script } from './script';

const CENTRE: Point = { x: 300, y: 286 };
const BOAT_PT = 84;
const SHEETS = 'the further out the sail';

/** A boat to one side of the middle, and her sail, to leeward. */
function boat(bearing: number, heading: number, boom: number) {
  const angle = (bearing * Math.PI) / 180;
  const at = { x: CENTRE.x + 170 * Math.sin(angle), y: CENTRE.y - 170 * Math.cos(angle) };
  return [draw(NIGHT, hull(at, heading, BOAT_PT)), draw(SEA, sail(at, heading, boom, BOAT_PT))];
}

/** How a boat's sail stands to the wind: close hauled, on a reach, on a run. */
export const pointsOfSailing: Script = {
  name: 'points-lesson',
  title: 'Points of sailing',
  taughtTo: 'Young sailors',
  pageCount: 1,
  tidied: {
    chapters: [
      { beat: 0, title: 'Where the wind comes from' },
      { beat: 2, title: 'Three ways to sail' },
      { beat: 7, title: 'The rule' },
    ],
    thinkBefore: { beat: 3, seconds: 2 },
  },
  prepared: [],
  beats: [
    {
      say: 'Where does the wind come from? Draw that first, always.',
      acts: [draw(BLUE, ...wind(300, 24, 92)), write('wind', 320, 66, BLUE, 22)],
    },
    {
      say: 'Straight against it no boat can sail, nor within forty-five degrees on either side.',
      acts: [
        draw(RED, line(CENTRE.x, CENTRE.y, 160, 146), line(CENTRE.x, CENTRE.y, 440, 146)),
        write('no go', 264, 176, RED, 22),
      ],
    },
    {
      say: 'As near as she goes is called close hauled. The sail is in, hard.',
      acts: [...boat(66, 48, 12), write('close hauled', 504, 226, NIGHT, 22)],
    },
    {
      say: 'On a reach, the wind comes from the side. The sail is half out, and she is at her fastest.',
      acts: [...boat(104, 95, 45), write('reach', 522, 332, NIGHT, 22)],
    },
    {
      say: 'On a run it comes from behind. The sail is right out, and you mind your head.',
      acts: [...boat(176, 176, 82), write('run', 350, 470, NIGHT, 22)],
    },
    {
      say: 'Turning away from the wind is called bearing away. Turning up towards it again is heading up.',
      acts: [write('bear away', 730, 272, BLUE, 20), write('head up', 742, 316, BLUE, 20)],
    },
    {
      say: 'When the sail flaps at its front edge, it is too far out, or you are too near the wind: pull it in, or bear away, until it fills.',
      acts: [write('flaps? in, or bear away', 508, 96, RED, 20)],
    },
    {
      say: 'So remember: the further from the wind, the further out the sail.',
      acts: [
        write('The further from the wind,', 508, 424, SEA, 20),
        write(SHEETS, 508, 462, SEA, 20),
        draw(RED, line(508, 478, 508 + textWidth(SHEETS, 20), 478)),
      ],
    },
  ],
};
