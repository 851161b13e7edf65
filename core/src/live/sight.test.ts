import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decodeSightChange, encodeSightChange } from '../formats/sight-coding';
import type { PieceId } from '../lesson/ids';
import { isPassing, type Change, type PassingChange } from '../lesson/mark';
import type { Piece } from '../lesson/piece';
import { applyChange, shownPage, type Scene } from '../lesson/scene';
import * as given from '../testing/arbitraries';
import { sightChange, wholeOf, withChange, type Sight } from './sight';

const sightOf = (scene: Scene, more: Partial<Sight> = {}): Sight => ({
  state: shownPage(scene),
  look: scene.look,
  growing: new Map(),
  wet: [],
  passing: [],
  ...more,
});

/** What is seen, whatever it is made of. */
const seen = ({ state, look, growing, wet, passing }: Sight) => ({
  page: state.page,
  pieces: state.pieces,
  look,
  growing: [...growing],
  wet,
  passing: passing.map(({ change, isHeld }) => ({ change, isHeld })),
});

/** A stroke of which some points are there yet, or something else that is being drawn. */
const wet = fc.oneof(
  fc
    .tuple(given.stroke, fc.nat(20))
    .map(([stroke, n]): Piece => ({ ...stroke, points: stroke.points.part(0, 1 + (n % stroke.points.count)) })),
  given.piece,
);
const passing = fc
  .tuple(
    given.change.filter((change): change is PassingChange => isPassing(change)),
    fc.nat(4000),
    fc.boolean(),
  )
  .map(([change, sinceMs, isHeld]) => ({ change, sinceMs, isHeld }));
const growing = fc
  .array(fc.tuple(fc.nat(12), fc.nat(300)), { maxLength: 3 })
  .map((all) => new Map(all.map(([n, count]) => [`piece-${n}` as PieceId, count] as const)));

const step = fc.record({
  changes: fc.array(given.change, { maxLength: 4 }),
  wet: fc.option(fc.array(wet, { maxLength: 3 }), { nil: undefined }),
  passing: fc.option(fc.array(passing, { maxLength: 2 }), { nil: undefined }),
  growing: fc.option(growing, { nil: undefined }),
});

describe('what those who follow see', () => {
  it('is what is seen on the page, after any changes, told over any line and from any moment on', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), fc.nat(12), (steps, joined) => {
        let scene = given.base;
        let shown = sightOf(scene);
        const first = over(wholeOf(shown));
        let followed = withChange(null, first);
        let late: Sight | null = null;
        steps.forEach(({ changes, ...more }, i) => {
          scene = changes.reduce((now: Scene, change: Change) => applyChange(now, change), scene);
          const before = shown;
          const { wet, passing, growing } = before;
          shown = sightOf(scene, {
            wet: more.wet ?? wet,
            passing: more.passing ?? passing,
            growing: more.growing ?? growing,
          });
          const change = sightChange(before, shown);
          if (change) {
            followed = withChange(followed, over(change));
            if (late) late = withChange(late, over(change));
          }
          if (i === joined) late = withChange(null, over(wholeOf(shown)));
          expect(seen(followed)).toEqual(seen(shown));
          if (late) expect(seen(late)).toEqual(seen(shown));
        });
      }),
      { numRuns: 500 },
    );
  });

  it('says nothing where nothing changes, and little where little does', () => {
    const [stroke] = fc.sample(
      given.stroke.filter(({ points }) => points.count >= 8),
      { numRuns: 1, seed: 7 },
    );
    const part = (count: number) => sightOf(given.base, { wet: [{ ...stroke, points: stroke.points.part(0, count) }] });
    expect(sightChange(part(5), part(5))).toBeNull();
    const change = sightChange(part(5), part(8))!;
    expect(change.wet).toMatchObject([{ from: 5, piece: { points: { count: 3 } } }]);
    expect(change.put).toEqual([]);
  });

  it('cannot be changed before it is known', () => {
    const change = sightChange(
      sightOf(given.base),
      sightOf(given.base, { look: { left: 0, top: 0, right: 9, bottom: 9 } }),
    )!;
    expect(() => withChange(null, change)).toThrow(/not known/);
  });
});

const over: (change: Parameters<typeof encodeSightChange>[0]) => ReturnType<typeof decodeSightChange> = (change) =>
  decodeSightChange(encodeSightChange(change));
