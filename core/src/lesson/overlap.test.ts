import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { base, change, page, stroke } from '../testing/arbitraries';
import type { PageId, PieceId } from './ids';
import { pageOf, type Change } from './mark';
import { overlaps } from './overlap';
import { wideSquaredPage } from './page';
import { applyChange, pageStateOf, type Scene } from './scene';

const isDrop = (one: Change) => one.kind === 'drop-page';

/** What a window makes anew has an id of its own. */
function asNew(one: Change): Change {
  const renamed = (id: string) => `new-${id}`;
  switch (one.kind) {
    case 'ink':
      return { ...one, stroke: { ...one.stroke, id: renamed(one.stroke.id) as PieceId } };
    case 'place':
      return { ...one, pieces: one.pieces.map((piece) => ({ ...piece, id: renamed(piece.id) as PieceId })) };
    case 'add-page':
      return { ...one, page: { ...one.page, id: renamed(one.page.id) as PageId } };
    default:
      return one;
  }
}

const contentsOf = ({ pages }: Scene) =>
  new Map(pages.map(({ page, pieces }) => [page.id, [page, new Map(pieces.map((piece) => [piece.id, piece]))]]));

describe('changes of two windows', () => {
  it('come to the same, in whichever order, where they do not overlap', () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 30 }), change, change, fc.boolean(), (before, first, second, isNew) => {
        const [one, other] = [isNew ? asNew(first) : first, second];
        // A window may also bring back what it took away, under the id that has.
        fc.pre(!overlaps(one, other));
        const scene = before.reduce(applyChange, base);
        const [ab, ba] = [[one, other].reduce(applyChange, scene), [other, one].reduce(applyChange, scene)].map(
          contentsOf,
        );
        // The last page stays: whether a page is the last may depend on which change comes first.
        const drops = [one, other].some(({ kind }) => kind === 'drop-page');
        if (drops && scene.pages.length <= 2) return;
        expect(ab).toEqual(ba);
      }),
    );
  });

  it('lose nothing that is new, whatever the other one deletes', () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 30 }), page, stroke, change, (before, fresh, ink, other) => {
        const added: Change = asNew({ kind: 'add-page', page: fresh, after: before.find(isDrop)?.page ?? fresh.id });
        const inked: Change = {
          kind: 'ink',
          page: pageOf(added)!,
          stroke: { ...ink, pen: { ...ink.pen, kind: 'pen' } },
        };
        const scene = before.reduce(applyChange, base);
        fc.pre(![added, inked].some((one) => overlaps(one, other)));
        for (const merged of [
          [other, added, inked],
          [added, inked, other],
        ]) {
          const made = pageStateOf(merged.reduce(applyChange, scene), pageOf(added)!);
          expect(made?.pieces).toHaveLength(1);
        }
      }),
    );
  });

  it('keep a new page, with its ink, behind one that is deleted elsewhere', () => {
    const [first, second] = [base.shown, 'page-two' as PageId];
    const scene = applyChange(base, { kind: 'add-page', page: wideSquaredPage(second), after: first });
    const added: Change = { kind: 'add-page', page: wideSquaredPage('page-new' as PageId), after: second };
    const dropped: Change = { kind: 'drop-page', page: second };
    expect(overlaps(added, dropped)).toBe(false);
    for (const merged of [
      [added, dropped],
      [dropped, added],
    ]) {
      const { pages } = merged.reduce(applyChange, scene);
      expect(pages.map(({ page }) => page.id)).toEqual([first, 'page-new']);
    }
  });

  it('overlap whichever is named first', () => {
    fc.assert(
      fc.property(change, change, (one, other) => void expect(overlaps(one, other)).toBe(overlaps(other, one))),
    );
  });
});
