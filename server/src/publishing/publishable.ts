import type { Watch } from '@kite-trail/core/contract/watch';
import { encodePayload, timelineOf } from '@kite-trail/core/formats/payload';
import { writeWebVtt } from '@kite-trail/core/formats/timed-text';
import type { FileUse } from '@kite-trail/core/lesson/files';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { placeCaptions, timedText } from '@kite-trail/core/trail/captions';
import { placeChapters } from '@kite-trail/core/trail/chapters';
import type { Knex } from 'knex';
import { named, type NamedBytes } from '../assets/assets';
import type { LessonRow } from '../database/rows';
import { filesOf, playOut } from '../lessons/trails';

/** A lesson as a link would play it. */
export interface Publishable {
  payload: NamedBytes;
  lengthSamples: number;
  pageCount: number;
  chapters: Watch['chapters'];
  /** WebVTT; `null` where nobody has written any. */
  captions: string | null;
  /** Every picture and PDF page it names, also those the lesson does not have. */
  files: FileUse[];
  /** When the lesson had last been changed: where it has been changed since, this is not the lesson any more. */
  changedAt: string;
}

/** Plays a lesson out for a link. */
export async function makePublishable(db: Knex, { lesson: id }: { lesson: LessonId }): Promise<Publishable> {
  const lesson = (await db<LessonRow>('lessons').where({ id }).first())!;
  const { edition, recorded, ...payload } = await playOut(db, lesson);
  const pages = timelineOf(payload).pagesAtEnd;
  const chapters = placeChapters(
    { shownFirst: recorded.base.shown, pages },
    edition.programme,
    recorded.takes,
    edition.chapters,
  ).map(({ startSamples, title }) => ({ startSamples, title }));
  const cues = placeCaptions(edition.programme, edition.captions).filter(({ text }) => text !== '');
  return {
    payload: named(encodePayload(payload)),
    lengthSamples: payload.trail.lengthSamples,
    pageCount: pages.length,
    chapters,
    captions: cues.length > 0 ? writeWebVtt(cues.map(timedText)) : null,
    files: filesOf(payload),
    changedAt: lesson.changed_at,
  };
}
