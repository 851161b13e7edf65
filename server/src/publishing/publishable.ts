import type { Watch } from '@kite-trail/core/contract/watch';
import { encodePayload, timelineOf } from '@kite-trail/core/formats/payload';
import { writeWebVtt } from '@kite-trail/core/formats/timed-text';
import type { FileUse } from '@kite-trail/core/lesson/files';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { filledCues, timedText } from '@kite-trail/core/trail/captions';
import { trim } from '@kite-trail/core/trail/edit';
import { placePart, type Part } from '@kite-trail/core/trail/part';
import { placePrompts } from '@kite-trail/core/trail/prompts';
import type { Programme } from '@kite-trail/core/trail/programme';
import type { Knex } from 'knex';
import { named, type NamedBytes } from '../assets/assets';
import type { LessonRow } from '../database/rows';
import { badInput } from '../http/problem';
import { paintCover } from '../lessons/picture';
import { chaptersIn, filesOf, playOut } from '../lessons/trails';

/** As wide as chat programs show pictures of links. */
const PICTURE_WIDTH_PX = 800;

/** A lesson as a link would play it. */
export interface Publishable {
  payload: NamedBytes;
  lengthSamples: number;
  pageCount: number;
  chapters: Watch['chapters'];
  prompts: Watch['prompts'];
  /** What it plays of which takes. */
  programme: Programme;
  /** WebVTT; `null` where nobody has written any. */
  captions: string | null;
  /** Every picture and PDF page it names, also those the lesson does not have. */
  files: FileUse[];
  /** A PNG of the page that stands for it, as it is when all has been written. */
  picture: NamedBytes;
  /** When the lesson had last been changed: where it has been changed since, this is not the lesson any more. */
  changedAt: string;
}

/**
 * Plays a lesson out for a link, or a part of it alone: of what comes before, the ink is there when it begins.
 * @throws RequestProblem where nothing of the part is left
 */
export async function makePublishable(
  db: Knex,
  { lesson: id, part }: { lesson: LessonId; part: Part | null },
): Promise<Publishable> {
  const lesson = (await db<LessonRow>('lessons').where({ id }).first())!;
  const played = await playOut(db, lesson, (programme) => partOf(programme, part));
  const { edition, base, trail } = played;
  const payload = { base, trail };
  const timeline = timelineOf(payload);
  const pages = timeline.pagesAtEnd;
  const chapters = chaptersIn(played, timeline).map(({ startSamples, title }) => ({ startSamples, title }));
  const cues = filledCues(edition.programme, edition.captions);
  return {
    payload: named(encodePayload(payload)),
    lengthSamples: payload.trail.lengthSamples,
    pageCount: pages.length,
    chapters,
    prompts: placePrompts(edition.programme, edition.prompts).map(
      ({ prompt: { id, question, answer }, atSamples }) => ({
        ...{ id, question, answer },
        atSamples,
      }),
    ),
    programme: edition.programme,
    captions: cues.length > 0 ? writeWebVtt(cues.map(timedText)) : null,
    files: filesOf(payload),
    picture: named(await paintCover(db, lesson, timeline.end.pages, PICTURE_WIDTH_PX)),
    changedAt: lesson.changed_at,
  };
}

function partOf(programme: Programme, part: Part | null): Programme {
  if (part === null) return programme;
  const stretch = placePart(programme, part);
  if (!stretch) throw badInput('This part has been cut out of the lesson. Choose another, or withdraw its link.');
  return trim(programme, stretch.fromSamples, stretch.toSamples);
}
