import type { TakeId } from '../lesson/ids';
import type { Mark } from '../lesson/mark';
import type { Edition } from './edition';
import { takesIn } from './programme';
import { pagesAlone } from './trail';

/** What of a lesson somebody else gets. */
export interface GivenAway {
  /** Plays the same, and says nothing of takes that were thrown away. */
  edition: Edition;
  /** Takes that are nobody else's. */
  kept: ReadonlySet<TakeId>;
  /** Takes of which the marks alone are given that make and change pages, because others write on these pages. */
  hollow: ReadonlyMap<TakeId, readonly Mark[]>;
}

/**
 * A lesson's edition as it is given to somebody else.
 * @param binned the marks of takes that were thrown away; those that the programme plays all the same, because an older edit was gone
 * back to, are given whole
 */
export function giveAway(edition: Edition, binned: ReadonlyMap<TakeId, readonly Mark[]>): GivenAway {
  const played = takesIn(edition.programme);
  const thrown = new Set([...binned.keys()].filter((take) => !played.has(take)));
  // A stroke that was moved to where a take wrote is not seen while that take does not play, so the take must be known.
  const movedTo = new Set(edition.inkEdits.flatMap(({ at }) => (at && at !== 'start' ? [at.take] : [])));
  const hollow = new Map<TakeId, readonly Mark[]>();
  for (const take of thrown) {
    const pages = pagesAlone(binned.get(take)!);
    if (pages.length > 0 || movedTo.has(take)) hollow.set(take, pages);
  }
  const kept = new Set([...thrown].filter((take) => !hollow.has(take)));
  return {
    edition: {
      ...edition,
      programme: edition.programme.filter(({ take }) => !kept.has(take)),
      chapters: edition.chapters.filter(({ take }) => !thrown.has(take)),
      prompts: edition.prompts.filter(({ take }) => !thrown.has(take)),
      captions: edition.captions
        .map((caption) => ({ ...caption, spans: caption.spans.filter(({ take }) => !thrown.has(take)) }))
        .filter(({ spans }) => spans.length > 0),
    },
    kept,
    hollow,
  };
}
