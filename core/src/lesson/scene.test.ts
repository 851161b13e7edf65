import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { base, change, stroke } from '../testing/arbitraries';
import type { PageId } from './ids';
import { wideSquaredPage } from './page';
import { applyChange, applyChanges, inverseOf, type Scene } from './scene';

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

  it('is the same whether changes come one by one or together', () => {
    const inked = fc.record({ kind: fc.constant('ink' as const), page: fc.constant(base.shown), stroke });
    fc.assert(
      fc.property(fc.array(fc.oneof(change, inked), { maxLength: 80 }), (changes) => {
        expect(applyChanges(base, changes)).toEqual(after(changes));
      }),
    );
    expect(applyChanges(base, [])).toBe(base);
  });

  it('is put back as it was by the inverse of a change that did something', () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 40 }), change, (changes, last) => {
        const before = after(changes);
        const changed = applyChange(before, last);
        const inverse = inverseOf(before, last);
        // Where nothing changed, there is nothing to take back.
        if (changed === before) return void expect(inverse.reduce(applyChange, before)).toBe(before);
        if (inverse.length === 0) return void expect(['turn', 'look']).toContain(last.kind);
        const restored = inverse.reduce(applyChange, changed);
        const contents = (scene: Scene) =>
          scene.pages.map(({ page, pieces }) => [page, new Map(pieces.map((piece) => [piece.id, piece]))]);
        expect(contents(restored)).toEqual(contents(before));
      }),
    );
  });

  it('keeps what was there when the placing of it once more is undone', () => {
    fc.assert(
      fc.property(stroke, stroke, (there, fresh) => {
        fc.pre(there.id !== fresh.id);
        const page = base.shown;
        const before = applyChange(base, { kind: 'place', page, pieces: [there] });
        const both = { kind: 'place', page, pieces: [there, fresh] } as const;
        const undone = inverseOf(before, both).reduce(applyChange, applyChange(before, both));
        expect(undone.pages[0].pieces).toEqual([there]);
      }),
    );
  });

  it('puts a new page to the end where the page that it was to follow has gone', () => {
    const [first, second, third] = ['page-one', 'page-two', 'page-three'] as PageId[];
    const two = applyChange(base, { kind: 'add-page', page: wideSquaredPage(second), after: first });
    const gone = applyChange(two, { kind: 'drop-page', page: first });
    const added = applyChange(gone, { kind: 'add-page', page: wideSquaredPage(third), after: first });
    expect(added.pages.map(({ page }) => page.id)).toEqual([second, third]);
  });

  it('keeps its last page, and shows a neighbour of a page that goes', () => {
    const [first, second] = ['page-one', 'page-two'] as PageId[];
    const two = applyChange(base, { kind: 'add-page', page: wideSquaredPage(second), after: first });
    const shown = applyChange(two, { kind: 'turn', page: second });
    const one = applyChange(shown, { kind: 'drop-page', page: second });
    expect(one.shown).toBe(first);
    expect(applyChange(one, { kind: 'drop-page', page: first })).toBe(one);
  });

  it('is the very same scene when a change names what is not there', () => {
    expect(applyChange(base, { kind: 'turn', page: 'nowhere' as never })).toBe(base);
    expect(applyChange(base, { kind: 'lift', page: base.shown, pieceIds: ['none' as never] })).toBe(base);
    expect(applyChange(base, { kind: 'add-page', page: base.pages[0].page, after: null })).toBe(base);
  });
});
