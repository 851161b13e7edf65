import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { base, change } from '../testing/arbitraries';
import { applyChange, inverseOf, type Scene } from './scene';

const after = (changes: Parameters<typeof applyChange>[1][]): Scene => changes.reduce(applyChange, base);

describe('a scene', () => {
  it('keeps pieces unique and in stacking order, and shows a page it has, whatever changes come', () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 80 }), (changes) => {
        const scene = after(changes);
        expect(scene.pages.some((state) => state.page.id === scene.shown)).toBe(true);
        expect(new Set(scene.pages.map((state) => state.page.id)).size).toBe(scene.pages.length);
        for (const { pieces } of scene.pages) {
          expect(new Set(pieces.map((piece) => piece.id)).size).toBe(pieces.length);
          pieces.forEach((piece, i) => i > 0 && expect(piece.z).toBeGreaterThanOrEqual(pieces[i - 1].z));
        }
      }),
    );
  });

  it('is put back as it was by the inverse of a change that did something', () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 40 }), change, (changes, last) => {
        const before = after(changes);
        const changed = applyChange(before, last);
        const inverse = inverseOf(before, last);
        fc.pre(inverse !== null && changed !== before && last.kind !== 'place');
        const restored = applyChange(changed, inverse!);
        const pieceIds = (scene: Scene) => scene.pages.map((state) => state.pieces.map((piece) => piece.id).sort());
        expect(pieceIds(restored)).toEqual(pieceIds(before));
      }),
    );
  });

  it('is the very same scene when a change names what is not there', () => {
    expect(applyChange(base, { kind: 'turn', page: 'nowhere' as never })).toBe(base);
    expect(applyChange(base, { kind: 'lift', page: base.shown, pieceIds: ['none' as never] })).toBe(base);
    expect(applyChange(base, { kind: 'add-page', page: base.pages[0].page, after: null })).toBe(base);
  });
});
