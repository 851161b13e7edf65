import type { SchoolClass } from '@kite-trail/core/contract/class';
import { NOTHING_SAID, type LessonSummary } from '@kite-trail/core/contract/lesson';
import type { ClassId, LessonId } from '@kite-trail/core/lesson/ids';

/** A lesson on Home of which nothing is special but what is said here. Its name is its id. */
export const lessonCalled = (id: string, more: Partial<LessonSummary> = {}): LessonSummary => ({
  id: id as LessonId,
  title: id,
  about: NOTHING_SAID,
  source: null,
  owner: null,
  colleagues: [],
  isFavourite: false,
  pageCount: 1,
  lengthSamples: 0,
  shared: false,
  openQuestions: 0,
  madeAt: '2026-11-24T08:00:00.000Z',
  changedAt: '2026-11-24T08:00:00.000Z',
  binnedAt: null,
  pictureVersion: 0,
  ...more,
});

export const classCalled = (id: string, lessons: readonly string[], isArchived = false): SchoolClass => ({
  id: id as ClassId,
  name: id,
  color: 'sea',
  cover: null,
  isArchived,
  pageToken: null,
  lessons: lessons as LessonId[],
});
