import type { PageId } from '../lesson/ids';
import { pageStateOf, type PageState } from '../lesson/scene';
import type { Timeline } from './timeline';

/** A page as it is at a moment of a trail. */
export interface PageAt {
  page: PageId;
  atSamples: number;
  /** To be filled in: as it was prepared, or, where it came about in the trail, without strokes. */
  isBlank: boolean;
}

/** A page with nothing that was written on it by hand. */
export const withoutStrokes = ({ page, pieces }: PageState): PageState => ({
  page,
  pieces: pieces.filter(({ kind }) => kind !== 'stroke'),
});

/** What a page looks like at a moment; `undefined` where it is not there then. */
export function pageAt(timeline: Timeline, { page, atSamples, isBlank }: PageAt): PageState | undefined {
  const state = pageStateOf(timeline.at(atSamples).scene, page);
  if (!isBlank || !state) return state;
  return pageStateOf(timeline.base, page) ?? withoutStrokes(state);
}
