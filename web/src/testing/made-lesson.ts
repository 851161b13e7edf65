import { lesson as lessonSchema, NOTHING_SAID, type LessonDocument } from '@kite-trail/core/contract/lesson';
import { encodeMarks, encodePieces } from '@kite-trail/core/formats/marks-coding';
import type { PageId, TakeId } from '@kite-trail/core/lesson/ids';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { NOTHING_EDITED, type Edition } from '@kite-trail/core/trail/edition';
import { toBase64 } from '../server/base64';

/** For tests: what the server says of a take of ten seconds. */
export const madeTake = (id: TakeId, more: object = {}) => ({
  id,
  lengthSamples: 480_000,
  hasSound: false,
  sound: null,
  marks: 'a'.repeat(64),
  ended: true,
  hasProfile: false,
  partCount: 0,
  keptAs: null,
  startedAt: '2026-11-24T08:00:00.000Z',
  plan: { kind: 'carry-on' },
  name: '',
  isBinned: false,
  ...more,
});

/** For tests: what plays these segments and is edited in no other way. */
export const editionOf = (programme: Edition['programme']): Edition => ({ ...NOTHING_EDITED, programme });

/** For tests: what the server says of a lesson with these pages. */
export const madeLesson = (pages: readonly PageId[], more: object): LessonDocument =>
  lessonSchema.parse({
    id: 'lesson-of-knots',
    title: 'Knots',
    about: NOTHING_SAID,
    isBinned: false,
    revision: 1,
    pages: pages.map((page) => ({ page: wideSquaredPage(page), pieces: toBase64(encodePieces([])) })),
    between: toBase64(encodeMarks([])),
    history: '',
    takes: [],
    versions: [],
    edition: NOTHING_EDITED,
    edit: { n: 1, madeAt: '2026-11-24T08:00:20.000Z' },
    canUndoEdit: false,
    canRedoEdit: false,
    link: null,
    ...more,
  });
