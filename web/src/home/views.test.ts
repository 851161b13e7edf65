import type { LessonSummary } from '@kite-trail/core/contract/lesson';
import { describe, expect, it } from 'vitest';
import type { ClassId } from '@kite-trail/core/lesson/ids';
import { classCalled, lessonCalled } from '../testing/lessons';
import { lessonsIn, sortsOf, type View } from './views';

let day = 10;
const lesson = (id: string, more: Partial<LessonSummary> = {}) => {
  const [madeAt, changedAt] = [`2026-11-${day}T08:00:00.000Z`, `2026-11-${day++}T09:00:00.000Z`];
  return lessonCalled(id, { madeAt, changedAt, ...more });
};
const taught = classCalled;

const lessons = [
  lesson('Knot 10', { lengthSamples: 3 }),
  lesson('knot 9', { isFavourite: true, lengthSamples: 9 }),
  lesson('Éclair', { madeAt: '2026-12-01T08:00:00.000Z' }),
  lesson('Anchors', { binnedAt: '2026-11-20T08:00:00.000Z' }),
  lesson('Bends', { binnedAt: '2026-11-21T08:00:00.000Z', isFavourite: true }),
  lesson('Old splices'),
];
const classes = [
  taught('crew', ['knot 9', 'Anchors', 'Knot 10', 'a lesson that is not there']),
  taught('last year', ['Old splices', 'Knot 10'], true),
];
const titles = (view: View, sort: Parameters<typeof lessonsIn>[3] = 'used') =>
  lessonsIn(view, lessons, classes, sort).map(({ title }) => title);
const crew: View = { of: 'class', id: 'crew' as ClassId };

describe('the lessons that are seen', () => {
  it('are all but those in the bin, and those that are taught no more', () => {
    expect(titles({ of: 'all' })).toEqual(['Éclair', 'knot 9', 'Knot 10']);
    expect(titles({ of: 'favourites' })).toEqual(['knot 9']);
  });

  it('are in a class as they are taught there, also when it is taught no more', () => {
    expect(titles(crew, 'taught')).toEqual(['knot 9', 'Knot 10']);
    expect(titles({ of: 'class', id: 'last year' as ClassId }, 'taught')).toEqual(['Old splices', 'Knot 10']);
    expect(titles({ of: 'class', id: 'gone' as ClassId })).toEqual([]);
  });

  it('lie in the bin in the order in which they came there', () => {
    expect(titles({ of: 'bin' })).toEqual(['Bends', 'Anchors']);
  });

  it('can be sorted: numbers as numbers, letters without regard to marks and case', () => {
    expect(titles({ of: 'all' }, 'title')).toEqual(['Éclair', 'knot 9', 'Knot 10']);
    expect(titles({ of: 'all' }, 'made')).toEqual(['Éclair', 'knot 9', 'Knot 10']);
    expect(titles({ of: 'all' }, 'length')).toEqual(['knot 9', 'Knot 10', 'Éclair']);
    expect(titles(crew, 'used')).toEqual(['knot 9', 'Knot 10']);
    expect(sortsOf(crew)).toContain('taught');
    expect(sortsOf({ of: 'all' })).not.toContain('taught');
  });
});
