import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import { filesIn, filesOn, type FileUse } from '@kite-trail/core/lesson/files';
import type { LessonId, TakeId } from '@kite-trail/core/lesson/ids';
import { applyChanges, sceneOf, type Scene } from '@kite-trail/core/lesson/scene';
import type { Take } from '@kite-trail/core/trail/take';
import type { Edition } from '@kite-trail/core/trail/edition';
import { placeChapters, type PlacedChapter } from '@kite-trail/core/trail/chapters';
import type { Programme } from '@kite-trail/core/trail/programme';
import { withInkEdits, type Recorded } from '@kite-trail/core/trail/ink-edits';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { flatten } from '@kite-trail/core/trail/trail';
import { timelineOf, type Payload } from '@kite-trail/core/formats/payload';
import type { Knex } from 'knex';
import { readAsset } from '../assets/assets';
import { Shelf } from '../assets/shelf';
import type { LessonRow, TakeRow } from '../database/rows';
import { readPages } from './lessons';
import { currentEdition } from './editions';

/**
 * A lesson's pages and its programme played out, as a link plays it.
 * @param played which of its programme is played: all of it, where nothing is said
 */
export async function playOut(
  db: Knex,
  lesson: LessonRow,
  played: (programme: Programme) => Programme = (programme) => programme,
): Promise<Payload & { edition: Edition; recorded: Recorded }> {
  const current = await currentEdition(db, lesson);
  const edition = { ...current, programme: played(current.programme) };
  const takes = new Map<TakeId, Take>();
  for (const row of await db<TakeRow>('takes').where({ lesson_id: lesson.id }).whereNotNull('ended_at')) {
    const marks = row.marks_asset ? decodeMarks(await readAsset(db, row.marks_asset)) : [];
    takes.set(row.id, { id: row.id, lengthSamples: Number(row.length_samples), sound: row.sound_asset, marks });
  }
  const base = sceneOf(await readPages(db, lesson.id));
  const recorded = withInkEdits({ base, takes }, edition.inkEdits, edition.programme);
  return { base: recorded.base, trail: flatten(edition.programme, recorded.takes), edition, recorded };
}

/** Where the chapters of a programme that was played out begin. */
export const chaptersIn = (
  { edition, recorded }: Awaited<ReturnType<typeof playOut>>,
  { pagesAtEnd: pages }: Timeline,
): PlacedChapter[] =>
  placeChapters({ shownFirst: recorded.base.shown, pages }, edition.programme, recorded.takes, edition.chapters);

/** Every picture and PDF page that is seen at some time. */
export const filesOf = ({ base, trail }: Payload): FileUse[] => [
  ...base.pages.flatMap(filesOn),
  ...trail.marks.flatMap(filesIn),
];

/** The PDF pages of a lesson, recorded or prepared, that nobody has sent a picture of yet. */
export async function undrawnPages(db: Knex, { lesson: id }: { lesson: LessonId }): Promise<FileUse[]> {
  const lesson = (await db<LessonRow>('lessons').where({ id }).first())!;
  const since = decodeMarks(lesson.between_marks).flatMap(filesIn);
  return (await Shelf.ofLesson(db, lesson)).undrawn([...filesOf(await playOut(db, lesson)), ...since]);
}

/** A lesson as it stands: after all that was recorded, and what was changed since. */
export async function sceneNow(db: Knex, lesson: LessonRow): Promise<Scene> {
  return applyChanges(timelineOf(await playOut(db, lesson)).end, decodeMarks(lesson.between_marks));
}
