import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { encodeHistory, NO_HISTORY } from '@kite-trail/core/formats/history-coding';
import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { PageId } from '@kite-trail/core/lesson/ids';
import type { Change } from '@kite-trail/core/lesson/mark';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import type { Stroke } from '@kite-trail/core/lesson/piece';
import type { Person } from '@kite-trail/e2e/support/browser';
import { handwriting } from './big-lesson';

/** Makes a lesson with handwriting on its pages. */
export async function madeLesson(
  teacher: Person,
  title: string,
  pageCount: number,
  strokesEach: number,
): Promise<LessonDocument> {
  const lesson = await teacher.request<LessonDocument>('POST', '/lessons', { title });
  const strokes = handwriting();
  let after = lesson.pages[0].page.id;
  const changes: Change[] = [];
  for (let n = 0; n < pageCount; n++) {
    if (n > 0) {
      const page = wideSquaredPage(`${lesson.id}-${n}` as PageId);
      changes.push({ kind: 'add-page', page, after });
      after = page.id;
    }
    const pieces = Array.from({ length: strokesEach }, () => strokes.next().value as Stroke);
    changes.push({ kind: 'place', page: after, pieces });
  }
  const bytes = (part: Uint8Array) => Buffer.from(part).toString('base64');
  await teacher.request('POST', `/lessons/${lesson.id}/changes`, {
    revision: lesson.revision,
    marks: bytes(encodeMarks(changes.map((change) => ({ ...change, atSamples: 0 })))),
    history: bytes(encodeHistory(NO_HISTORY)),
  });
  return lesson;
}
