import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { base, change } from '../testing/arbitraries';
import { overlaps } from './overlap';
import { applyChange, type Scene } from './scene';

/** New ids, as every window gives its own new things. */
const isNew = (kind: string) => kind === 'ink' || kind === 'place' || kind === 'add-page';

describe('changes of two windows', () => {
  it('come to the same, in whichever order, where they do not overlap', () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 30 }), change, change, (before, one, other) => {
        // New things have ids of their own, and the order of pages and of equal heights may differ.
        fc.pre(!isNew(one.kind) && !isNew(other.kind) && one.kind !== 'turn' && other.kind !== 'turn');
        fc.pre(!overlaps(one, other));
        const scene = before.reduce(applyChange, base);
        const contents = ({ pages }: Scene) =>
          new Map(
            pages.map(({ page, pieces }) => [page.id, [page, new Map(pieces.map((piece) => [piece.id, piece]))]]),
          );
        const [ab, ba] = [
          [one, other],
          [other, one],
        ].map((both) => contents(both.reduce(applyChange, scene)));
        // The last page stays, so of two that are deleted at once either may be left.
        fc.pre(!(one.kind === 'drop-page' && other.kind === 'drop-page'));
        expect(ab).toEqual(ba);
      }),
    );
  });

  it('overlap whichever is named first', () => {
    fc.assert(
      fc.property(change, change, (one, other) => void expect(overlaps(one, other)).toBe(overlaps(other, one))),
    );
  });
});
