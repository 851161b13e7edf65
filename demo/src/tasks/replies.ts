import { line, type Point } from '../pen/letters';
import { hull, sail, wind } from '../teaching/boat';
import { BLUE, draw, NIGHT, RED, SEA, write, type Script, type Writing } from '../teaching/script';

const BOAT_PT = 96;
const SHEET = 'points-task';
const BOATS: readonly { at: Point; heading: number; boom: number }[] = [
  { at: { x: 210, y: 270 }, heading: 48, boom: 12 },
  { at: { x: 480, y: 290 }, heading: 95, boom: 45 },
  { at: { x: 750, y: 300 }, heading: 176, boom: 82 },
];

/** What the class is given: three boats, and where the wind comes from. */
export const sheet: Script = {
  name: SHEET,
  title: 'Which point of sail?',
  taughtTo: 'Young sailors',
  pageCount: 1,
  prepared: [
    { page: 0, act: draw(BLUE, ...wind(480, 40, 120)) },
    { page: 0, act: write('wind', 500, 92, BLUE, 22) },
    ...BOATS.flatMap(({ at, heading, boom }, n) => [
      { page: 0, act: draw(NIGHT, hull(at, heading, BOAT_PT), sail(at, heading, boom, BOAT_PT)) },
      { page: 0, act: write(String(n + 1), at.x - 96, at.y - 70, NIGHT, 24) },
    ]),
  ],
  beats: [],
};

export const TASK = {
  title: sheet.title,
  question: 'On which point of sail is each of the three boats? Write it beside her, and say how you see it.',
  criteria: [
    { name: 'The three names', points: 6 },
    { name: 'How it is seen', points: 4 },
  ],
};

const PLACES: readonly Point[] = [
  { x: 120, y: 400 },
  { x: 420, y: 410 },
  { x: 690, y: 430 },
];
const named = (...names: string[]): Writing[] =>
  names.map((name, n) => write(name, PLACES[n].x, PLACES[n].y, NIGHT, 21));

/** What a student writes, and, where they speak, what they say meanwhile. */
export interface DemoReply {
  student: string;
  /** What is written without being recorded. */
  written: readonly Writing[];
  recorded?: Script;
  /** How long before or after it was due it was handed in; `null` where it is only begun. */
  handedInHours: number | null;
  feedback?: { points: (number | null)[]; note: string; spoken?: Script; isSeen: boolean; answer?: string };
}

const spoken = (name: string, voice: Script['voice'], beats: Script['beats']): Script => ({
  ...{ name, title: name, taughtTo: 'Young sailors', pageCount: 1, prepared: [], on: SHEET },
  voice,
  beats,
});

export const idasReply = spoken('reply-ida', { name: 'en-gb+f3', pitch: 62 }, [
  { say: 'Boat one is close hauled: her sail is pulled in hard.', acts: named('close hauled').slice(0, 1) },
  { say: 'Boat two has the wind from the side, so she is on a reach.', acts: named('', 'reach').slice(1) },
  { say: 'And boat three runs before the wind, with her sail right out.', acts: named('', '', 'run').slice(2) },
]);

export const olesReply = spoken('reply-ole', { name: 'en-gb+m7', pitch: 70 }, [
  { say: 'One goes against the wind as far as she can.', acts: named('close hauled').slice(0, 1) },
  { say: 'Two and three both have the wind from behind, I think.', acts: named('', 'run', 'run').slice(1) },
]);

export const idasFeedback = spoken('feedback-ida', undefined, [
  {
    say: 'All three are right, and you look at the sail first. Well done.',
    acts: [
      draw(RED, line(120, 432, 280, 432)),
      draw(RED, line(420, 442, 500, 442)),
      draw(RED, line(690, 462, 740, 462)),
    ],
  },
  {
    say: 'One more thing: on the run, look where the wind comes from before you look at the sail.',
    acts: [draw(SEA, line(500, 128, 700, 250))],
  },
]);

export const SPOKEN_REPLIES: readonly Script[] = [idasReply, olesReply, idasFeedback];

/** Who is in the class, and what each has made of it. */
export const STUDENTS = ['Ida', 'Jonas', 'Liv', 'Maja', 'Nils', 'Ole', 'Runa', 'Sigrid', 'Tove'];

export const REPLIES: readonly DemoReply[] = [
  {
    student: 'Ida',
    written: [],
    recorded: idasReply,
    handedInHours: -30,
    feedback: {
      points: [6, 3],
      note: 'You see it by the sail, as sailors do. Look at the wind first.',
      spoken: idasFeedback,
      isSeen: true,
      answer: 'Is the wind arrow always at the top?',
    },
  },
  {
    student: 'Jonas',
    written: named('close hauled', 'reach', 'run'),
    handedInHours: -20,
    feedback: { points: [6, 2], note: 'All right. How did you see it? Write a word to each.', isSeen: false },
  },
  { student: 'Liv', written: named('close hauled', 'reach'), handedInHours: -8 },
  { student: 'Maja', written: named('reach', 'reach', 'run'), handedInHours: -3 },
  { student: 'Ole', written: [], recorded: olesReply, handedInHours: -2 },
  { student: 'Runa', written: named('close hauled', 'beam reach', 'dead run'), handedInHours: 5 },
  { student: 'Sigrid', written: named('close'), handedInHours: null },
];
