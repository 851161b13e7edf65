import type { FoundKind } from '@kite-trail/core/contract/search';
import { FormatError } from '@kite-trail/core/formats/bytes';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { applyChanges } from '@kite-trail/core/lesson/scene';
import { timelineOf } from '@kite-trail/core/formats/payload';
import { folded } from '@kite-trail/core/search/fold';
import { typedTexts } from '@kite-trail/core/search/typed';
import { placeCaptions } from '@kite-trail/core/trail/captions';
import type { Knex } from 'knex';
import type { LessonRow } from '../database/rows';
import { aboutOf } from '../lessons/lessons';
import { playOut } from '../lessons/trails';

/** Something that can be found in a lesson. */
export interface ReadText {
  kind: FoundKind;
  text: string;
  folded: string;
  atSamples: number | null;
  page: number | null;
}

/** All that can be found in a lesson, as it was when it had last been changed. */
export interface LessonTexts {
  lesson: LessonId;
  changedAt: string;
  texts: ReadText[];
}

/** Reads lessons through for what can be found in them. Those that have gone meanwhile are left out. */
export async function readTexts(db: Knex, { lessons }: { lessons: readonly LessonId[] }): Promise<LessonTexts[]> {
  const all: LessonTexts[] = [];
  for (const id of lessons) {
    const lesson = await db<LessonRow>('lessons').where({ id }).first();
    if (lesson) all.push({ lesson: id, changedAt: lesson.changed_at, texts: await textsOf(db, lesson) });
  }
  return all;
}

type FoundText = Omit<ReadText, 'folded'>;

async function textsOf(db: Knex, lesson: LessonRow): Promise<ReadText[]> {
  // A lesson that cannot be played out is found by what is said about it; it hinders nobody from finding others.
  const within = await textsWithin(db, lesson).catch((error: unknown) => {
    if (error instanceof FormatError) return [];
    throw error;
  });
  return [...saidAbout(lesson), ...within].flatMap((one) => {
    const plain = folded(one.text);
    return plain === '' ? [] : [{ ...one, folded: plain }];
  });
}

const said = (kind: FoundKind, text: string): FoundText => ({ kind, text, atSamples: null, page: null });

function saidAbout(lesson: LessonRow): FoundText[] {
  const { description, subject, level, tags } = aboutOf(lesson);
  return [
    said('title', lesson.title),
    ...tags.map((tag) => said('tag', tag)),
    said('subject', [subject, level].filter(Boolean).join(', ')),
    said('description', description),
  ];
}

/** What is heard and typed in a lesson. @throws FormatError where it is damaged */
async function textsWithin(db: Knex, lesson: LessonRow): Promise<FoundText[]> {
  const { edition, ...payload } = await playOut(db, lesson);
  const since = decodeMarks(lesson.between_marks);
  const { pages } = applyChanges(timelineOf(payload).end, since);
  const numbers = new Map(pages.map(({ page }, i) => [page.id, i + 1]));
  return [
    ...placeCaptions(edition.programme, edition.captions).map(({ text, startSamples }) => ({
      ...said('caption', text),
      atSamples: startSamples,
    })),
    ...typedTexts(payload.base, payload.trail.marks, since).map(({ text, page, atSamples }) => ({
      ...said('text', text),
      atSamples,
      page: numbers.get(page) ?? null,
    })),
  ];
}
