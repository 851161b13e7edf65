import type { PageId } from '../lesson/ids';
import type { Trail } from './trail';

/**
 * The part of a trail around a moment in which one page is shown without a break.
 * @param shownFirst the page the trail begins on
 * @returns its ends, in samples of the trail
 */
export function pagePartAt(
  { marks, lengthSamples }: Trail,
  shownFirst: PageId,
  atSamples: number,
): { from: number; to: number } {
  let [page, from] = [shownFirst, 0];
  for (const mark of marks) {
    if (mark.kind !== 'turn' || mark.page === page) continue;
    if (mark.atSamples > atSamples) return { from, to: mark.atSamples };
    [page, from] = [mark.page, mark.atSamples];
  }
  return { from, to: lengthSamples };
}
