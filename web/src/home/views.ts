import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { LessonSummary } from '@kite-trail/core/contract/lesson';
import type { ClassId, LessonId } from '@kite-trail/core/lesson/ids';

/** Which of the lessons are seen. */
export type View = { of: 'all' | 'favourites' | 'bin' } | { of: 'class'; id: ClassId };

/** In which order lessons are seen: as they are taught in their class, or by what they are. */
export const SORTS = {
  taught: 'In order',
  used: 'Used last',
  made: 'Newest',
  title: 'By name',
  length: 'Longest',
} as const;
export type Sort = keyof typeof SORTS;

/** Only a class has an order of its own. */
export const sortsOf = (view: View): Sort[] =>
  (Object.keys(SORTS) as Sort[]).filter((sort) => sort !== 'taught' || view.of === 'class');

const byText = new Intl.Collator(undefined, { numeric: true, sensitivity: 'base' });
const latestFirst = (a: string, b: string) => (a < b ? 1 : a > b ? -1 : 0);

const COMPARE: Record<Exclude<Sort, 'taught'>, (a: LessonSummary, b: LessonSummary) => number> = {
  used: (a, b) => latestFirst(a.changedAt, b.changedAt),
  made: (a, b) => latestFirst(a.madeAt, b.madeAt),
  title: (a, b) => byText.compare(a.title, b.title),
  length: (a, b) => b.lengthSamples - a.lengthSamples,
};

/** The lessons of a view, in order. Lessons that only classes have that are taught no more are seen there alone. */
export function lessonsIn(
  view: View,
  lessons: readonly LessonSummary[],
  classes: readonly SchoolClass[],
  sort: Sort,
): LessonSummary[] {
  const present = lessons.filter(({ binnedAt }) => binnedAt === null);
  if (view.of === 'bin') {
    const binned = lessons.filter(({ binnedAt }) => binnedAt !== null);
    return binned.sort((a, b) => latestFirst(a.binnedAt!, b.binnedAt!));
  }
  if (view.of === 'class') {
    const own = classes.find(({ id }) => id === view.id)?.lessons ?? [];
    const known = new Map(present.map((lesson) => [lesson.id, lesson]));
    const taught = own.flatMap((id) => known.get(id) ?? []);
    return sort === 'taught' ? taught : taught.sort(COMPARE[sort]);
  }
  const past = pastOnly(classes);
  const seen = present.filter(({ id, isFavourite }) => (view.of === 'favourites' ? isFavourite : !past.has(id)));
  return seen.sort(COMPARE[sort === 'taught' ? 'used' : sort]);
}

function pastOnly(classes: readonly SchoolClass[]): Set<LessonId> {
  const past = new Set(classes.flatMap(({ isArchived, lessons }) => (isArchived ? lessons : [])));
  for (const { isArchived, lessons } of classes) if (!isArchived) lessons.forEach((id) => past.delete(id));
  return past;
}
