import { NOTHING_SAID } from '@kite-trail/core/contract/lesson';
import { USUAL_LINK } from '@kite-trail/core/contract/link';
import type { PromptId } from '@kite-trail/core/lesson/ids';
import { seeded } from '@kite-trail/core/random/seeded';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import { placeSegments, whenPlayed } from '@kite-trail/core/trail/programme';
import type {
  ClassRow,
  LessonRow,
  LinkRow,
  PublicationRow,
  VisitDayRow,
  VisitSumsRow,
} from '@kite-trail/server/database/rows';
import { inTransaction } from '@kite-trail/server/database/transaction';
import { currentEdition, editLesson } from '@kite-trail/server/lessons/editions';
import { lessonOf, sayAbout } from '@kite-trail/server/lessons/lessons';
import { changeLink } from '@kite-trail/server/links/links';
import { answer, ask, momentIn } from '@kite-trail/server/questions/questions';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import { readNarration } from '../narration/files';
import { compass } from '../teaching/compass';
import { givingWay } from '../teaching/giving-way';
import { pointsOfSailing } from '../teaching/points-of-sailing';
import type { Script } from '../teaching/script';
import { tide } from '../teaching/tide';
import { publishAs, soundOfTake } from './publish-as';
import { linkSoundOf, type LinkSound } from './sound';
import { madeUpVisits } from './visits';

/** How a recorded lesson of the demo is shared, and what came of it. */
interface Shared {
  script: Script;
  description: string;
  subject: string;
  level: string;
  visits: number;
  /** What it halts with, before which beat. */
  prompts: readonly { beat: number; question: string; answer: string }[];
  questions: readonly { beat: number; question: string; answer?: string }[];
}

const SHARED: readonly Shared[] = [
  {
    script: compass,
    description: 'What to steer by the compass when the course is drawn on the chart.',
    subject: 'Navigation',
    level: 'Day skipper',
    visits: 31,
    prompts: [
      {
        beat: 4,
        question: 'The course is 075° true. With 4° west and 3° east: what do you steer?',
        answer: '076°. West is added, east is taken off.',
      },
    ],
    questions: [
      { beat: 3, question: 'Where do I find the deviation of our own boat?', answer: 'On the card beside the chart.' },
      { beat: 9, question: 'Is it the other way round when I take a bearing?' },
    ],
  },
  {
    script: tide,
    description: 'How high the water stands between low and high water.',
    subject: 'Navigation',
    level: 'Day skipper',
    visits: 22,
    prompts: [],
    questions: [{ beat: 3, question: 'Does it hold in the river mouth, too?', answer: 'No: ask the harbour office.' }],
  },
  {
    script: pointsOfSailing,
    description: 'Close hauled, reach and run: how far out the sail goes.',
    subject: 'Sailing',
    level: 'Beginners',
    visits: 17,
    prompts: [],
    questions: [
      { beat: 3, question: 'Why is she faster than on a run?', answer: 'Her sail works as a wing does, on a reach.' },
    ],
  },
  {
    script: givingWay,
    description: 'Port and starboard, windward and leeward, and what to do in doubt.',
    subject: 'Rules of the road',
    level: 'Competent crew',
    visits: 12,
    prompts: [],
    questions: [{ beat: 5, question: 'How can I not tell which tack she is on?' }],
  },
];

const DAY_MS = 24 * 3600 * 1000;

/** Shares what was recorded, with its class and in the catalogue, and lets made-up students watch and ask. */
export async function shareDemo(db: Knex): Promise<void> {
  for (const [i, how] of SHARED.entries()) {
    const row = (await db<LessonRow>('lessons').where({ title: how.script.title }).first())!;
    const sound = await linkSoundOf(await currentEdition(db, row), (take) => soundOfTake(db, take));
    await inTransaction(db, (trx) => share(trx, row, how, sound, seeded(i + 1)));
  }
}

async function share(db: Knex, row: LessonRow, how: Shared, sound: LinkSound, random: () => number): Promise<void> {
  const { script, description, subject, level } = how;
  await sayAbout(db, row, { ...NOTHING_SAID, description, level, subject, licence: 'CC BY-SA' });
  const before = await currentEdition(db, row);
  const take = before.programme[0].take;
  const { startsSamples } = readNarration(script.name);
  const prompts = how.prompts.map(({ beat, question, answer: said }) => ({
    id: nanoid(12) as PromptId,
    ...{ take, atSamples: startsSamples[beat], question, answer: said },
  }));
  await editLesson(db, await lessonOf(db, row.id), { ...before, prompts });

  const lesson = await lessonOf(db, row.id);
  await publishAs(db, lesson, sound);

  const link = (await db<LinkRow>('links').where({ lesson_id: lesson.id }).first())!;
  const { id: schoolClass } = (await db<ClassRow>('classes').where({ name: script.taughtTo }).first())!;
  const settings = { ...USUAL_LINK, schoolClass, isListed: true, mayCopy: true };
  await changeLink(db, lesson.teacher_id, link, {
    settings: { ...settings, allows: { ...USUAL_LINK.allows, questions: true } },
  });
  const placed = placeSegments(before.programme);
  const playsAt = (beat: number) => whenPlayed(placed, { take, atSamples: startsSamples[beat] })!;
  await letWatch(db, lesson, how, playsAt, random);
}

/** Students watch, and ask. */
async function letWatch(
  db: Knex,
  lesson: LessonRow,
  { visits, questions }: Shared,
  playsAt: (beat: number) => number,
  random: () => number,
): Promise<void> {
  const link = (await db<LinkRow>('links').where({ lesson_id: lesson.id }).first())!;
  const { token, publication_id } = link;
  const publication = (await db<PublicationRow>('publications').where({ id: publication_id }).first())!;
  const lengthSamples = Number(publication.length_samples);
  const hardAt = questions.map(({ beat }) => playsAt(beat));
  const { sums, daysAgo } = madeUpVisits(lengthSamples, { visits, hardAt }, random);
  await db('visit_sums').insert({ token, publication_id, visits, sums: JSON.stringify(sums) } satisfies VisitSumsRow);
  for (const [ago, count] of [...daysAgo.entries()].reverse()) {
    if (count === 0) continue;
    const day = new Date(Date.now() - ago * DAY_MS).toISOString().slice(0, 10);
    const heard_seconds = Math.round(count * samplesToSeconds(lengthSamples) * 0.8);
    await db('visit_days').insert({ token, day, visits: count, heard_seconds } satisfies VisitDayRow);
    await db('links').where({ token }).update({ last_watched_on: day });
  }
  for (const { question, answer: said, beat } of questions) {
    const asked = { id: nanoid(), question, atSamples: playsAt(beat) };
    const moment = await momentIn(db, { publication: publication_id, atSamples: asked.atSamples });
    await ask(db, link, publication, asked, moment);
    if (said) await answer(db, lesson, asked.id, said);
  }
}
