import { ellipse, line, type Path } from '../pen/letters';
import type { DemoClass } from '../school-year';
import { hull, sail, wind } from './boat';
import { BLUE, draw, NIGHT, RED, SEA, STRAW, write, type Script, type Writing } from './script';

/** A page that waits to be taught upon. */
const prepared = (name: string, title: string, taughtTo: DemoClass, acts: readonly Writing[]): Script => ({
  name,
  title,
  taughtTo,
  pageCount: 1,
  prepared: acts.map((act) => ({ page: 0, act })),
  beats: [],
});

const list = (items: readonly string[], fromY: number): Writing[] =>
  items.map((item, i) => write(item, 96, fromY + i * 58, NIGHT, 24));

const eight: Path = Array.from({ length: 61 }, (_, i) => {
  const angle = (i / 60) * 2 * Math.PI;
  return { x: 700 + 170 * Math.sin(angle), y: 320 + 110 * Math.sin(2 * angle) };
});
const inshore: Path = Array.from({ length: 60 }, (_, i) => ({ x: 60 + i * 14, y: 150 + 16 * Math.sin(i / 5) }));

/** Lessons whose pages are ready, and which nobody has recorded yet. */
export const PREPARED: readonly Script[] = [
  prepared('fix-lesson', 'Your turn: a fix from two bearings', 'Day skippers', [
    write('Where are we?', 72, 84, NIGHT, 30),
    draw(STRAW, inshore),
    draw(NIGHT, line(240, 158, 240, 112), line(226, 112, 254, 112), line(680, 150, 680, 96), line(664, 96, 696, 96)),
    write('lighthouse 319° M', 96, 232, BLUE, 20),
    write('church 024° M', 620, 232, BLUE, 20),
    write('variation 4° west', 380, 500, RED, 22),
  ]),
  prepared('lights-lesson', 'Lights at night: which way does she go?', 'Day skippers', [
    write('Which way does she go?', 72, 84, NIGHT, 30),
    draw(RED, ellipse(200, 230, 13, 13), ellipse(480, 250, 13, 13)),
    draw(SEA, ellipse(540, 250, 13, 13), ellipse(800, 230, 13, 13)),
    draw(
      { ...STRAW, kind: 'pen', widthPt: 4 },
      ellipse(200, 170, 13, 13),
      ellipse(510, 180, 13, 13),
      ellipse(800, 170, 13, 13),
    ),
    write('to ..........', 150, 330, NIGHT, 22),
    write('to ..........', 450, 330, NIGHT, 22),
    write('to ..........', 750, 330, NIGHT, 22),
  ]),
  prepared('reefing-lesson', 'Reefing before the squall', 'Competent crew', [
    write('Reef while you still wonder whether to', 72, 84, NIGHT, 28),
    ...list(
      ['1  Heave to', '2  Ease the halyard', '3  Hook on the tack', '4  Haul down the clew', '5  Hoist, and sail on'],
      164,
    ),
    draw(RED, line(90, 176, 250, 176)),
  ]),
  prepared('overboard-lesson', 'Man overboard: the figure of eight', 'Competent crew', [
    write('Man overboard!', 72, 84, RED, 30),
    draw(BLUE, ...wind(860, 60, 130)),
    draw(NIGHT, eight),
    draw(RED, ellipse(700, 320, 10, 10)),
    ...list(['shout, throw, point', 'reach away', 'tack round', 'come up, sails empty'], 190),
  ]),
  prepared('parts-lesson', 'Parts of the dinghy', 'Young sailors', [
    write('Name the parts', 72, 84, NIGHT, 30),
    draw(NIGHT, hull({ x: 470, y: 320 }, 90, 380)),
    draw(SEA, sail({ x: 470, y: 320 }, 90, 24, 380)),
    draw(RED, line(660, 320, 720, 260), line(470, 250, 440, 180), line(330, 390, 260, 450), line(284, 320, 200, 280)),
    ...[
      [726, 256],
      [404, 168],
      [196, 478],
      [126, 272],
    ].map(([x, y]) => write('......', x, y, NIGHT, 22)),
  ]),
];
