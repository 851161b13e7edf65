import type { PageId } from '../lesson/ids';
import type { Stretch } from './edit';
import type { Trail } from './trail';

/** The parts of a trail in each of which one page is shown without a break, in order; together they are all of it. */
export function pageParts({ marks, lengthSamples }: Trail, shownFirst: PageId): (Stretch & { page: PageId })[] {
  const parts = [{ page: shownFirst, fromSamples: 0, toSamples: lengthSamples }];
  for (const mark of marks) {
    const last = parts[parts.length - 1];
    if (mark.kind !== 'turn' || mark.page === last.page) continue;
    last.toSamples = mark.atSamples;
    parts.push({ page: mark.page, fromSamples: mark.atSamples, toSamples: lengthSamples });
  }
  return parts;
}

/**
 * The part around a moment.
 * @param shownFirst the page the trail begins on
 * @returns its ends, in samples of the trail
 */
export function pagePartAt(trail: Trail, shownFirst: PageId, atSamples: number): { from: number; to: number } {
  const { fromSamples, toSamples } = pageParts(trail, shownFirst).findLast(
    (one, n) => n === 0 || one.fromSamples <= atSamples,
  )!;
  return { from: fromSamples, to: toSamples };
}
