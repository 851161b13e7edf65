import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decodePieces, encodePieces } from '../formats/marks-coding';
import { InkPoints } from '../ink/points';
import { rubbed } from '../ink/rub';
import { matrix, piece, stroke } from '../testing/arbitraries';
import { aligned, distributed, restacked, snapped, unitsOf } from './arrange';
import { boundsOf, pieceBounds } from './bounds';
import { cornersOf } from './frame';
import type { GroupId, PieceId } from './ids';
import { wideSquaredPage } from './page';
import { composed, IDENTITY, inverted, movedTo, scaleAbout, turnAbout } from './matrix';
import { movedPiece } from './moving';
import { newStroke, type Piece, type Stroke } from './piece';
import { applyChange, inverseOf, sceneOf, type Scene } from './scene';
import { pieceAt, piecesInLoop, placesOf } from './touch';

/** Frames lie on a grid of 1/32 pt, their turns on one of 1/40,000 of a full one. */
const GRID_PT = 0.25;

const pieces = fc.uniqueArray(piece, { minLength: 1, maxLength: 6, selector: ({ id }) => id });
const line = (id: string, xPt: number, yPt: number, group: string | null = null): Stroke => ({
  ...newStroke({
    id: id as PieceId,
    z: 1,
    pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
    points: InkPoints.from([
      { xPt, yPt, pressure: 0.5, sinceMs: 0 },
      { xPt: xPt + 30, yPt: yPt + 10, pressure: 0.5, sinceMs: 40 },
    ]),
  }),
  group: group as GroupId | null,
});

describe('a matrix', () => {
  it('does and undoes what DOMMatrix does', () => {
    // W3C Geometry Interfaces: a quarter turn about (10, 0) takes (20, 0) to (10, 10).
    const place = movedTo(turnAbout({ xPt: 10, yPt: 0 }, Math.PI / 2), { xPt: 20, yPt: 0 });
    expect(place.xPt).toBeCloseTo(10);
    expect(place.yPt).toBeCloseTo(10);
    fc.assert(
      fc.property(matrix, (one) => {
        composed(inverted(one), one).forEach((value, i) => expect(value).toBeCloseTo(IDENTITY[i], 5));
      }),
    );
    expect(() => inverted([1, 1, 1, 1, 0, 0])).toThrow(RangeError);
  });
});

describe('moving, scaling, turning and mirroring', () => {
  it('takes every place of a piece where the matrix takes it', () => {
    fc.assert(
      fc.property(piece, matrix, (one, by) => {
        const placesOn = (it: Piece) => (it.kind === 'stroke' ? placesOf(it) : cornersOf(it.frame));
        const moved = movedPiece(one, by);
        // A side is at least 4 pt, so what becomes smaller than that stays there.
        fc.pre(moved.kind === 'stroke' || Math.min(moved.frame.widthPt, moved.frame.heightPt) > 4);
        placesOn(one).forEach((place, i) => {
          const [is, should] = [placesOn(moved)[i], movedTo(by, place)];
          expect(Math.hypot(is.xPt - should.xPt, is.yPt - should.yPt)).toBeLessThan(GRID_PT);
        });
      }),
    );
  });

  it('keeps ids, times, pressures and places in the order, and reads back the same', () => {
    fc.assert(
      fc.property(piece, matrix, (one, by) => {
        const moved = movedPiece(one, by);
        expect({ ...moved, frame: null, matrix: null }).toEqual({ ...one, frame: null, matrix: null });
        expect(decodePieces(encodePieces([one, moved]))).toEqual([one, moved]);
      }),
    );
  });

  it('mirrors back to where it was', () => {
    const flip = scaleAbout({ xPt: 100, yPt: 50 }, -1, 1);
    const once = movedPiece(line('a', 10, 10), flip);
    expect(placesOf(once)[0]).toEqual({ xPt: 190, yPt: 10 });
    expect(placesOf(movedPiece(once, flip))).toEqual(placesOf(line('a', 10, 10)));
  });

  it('writes ink that is moved again and again without its points', () => {
    const long = newStroke({
      id: 'long-stroke-' as PieceId,
      z: 1,
      pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
      points: InkPoints.from(
        Array.from({ length: 400 }, (_, i) => ({ xPt: i * 1.7, yPt: 40 * Math.sin(i), pressure: 0.5, sinceMs: i * 4 })),
      ),
    });
    const states = Array.from({ length: 60 }, (_, i) => movedPiece(long, turnAbout({ xPt: 9, yPt: 9 }, i / 10)));
    const [once, often] = [encodePieces(states.slice(0, 1)).length, encodePieces(states).length];
    expect((often - once) / (states.length - 1)).toBeLessThan(40);
  });
});

describe('any mix of rubbing, moving, grouping, undoing and redoing', () => {
  type Step = (scene: Scene) => ReturnType<typeof inverseOf>;
  const page = wideSquaredPage('page-one' as never);
  const place = fc.record({ xPt: fc.integer({ min: 0, max: 400 }), yPt: fc.integer({ min: 0, max: 400 }) });
  let fresh = 0;
  const rub = fc.tuple(place, place).map(([from, to]): Step => (scene) => {
    const cut = scene.pages[0].pieces.filter((one) => one.kind === 'stroke');
    const parts = cut.map((one) => ({ one, left: rubbed(one, from, to, 12) })).filter(({ left }) => left !== null);
    return [
      { kind: 'lift', page: page.id, pieceIds: parts.map(({ one }) => one.id) },
      {
        kind: 'place',
        page: page.id,
        pieces: parts.flatMap(({ one, left }) =>
          left!.map((points) => ({ ...one, points, id: `part-${fresh++}` as PieceId })),
        ),
      },
    ];
  });
  const alter = (change: (one: Piece) => Piece): Step => {
    return (scene) => [{ kind: 'alter', page: page.id, pieces: scene.pages[0].pieces.slice(0, 3).map(change) }];
  };
  const some = (scene: Scene) => scene.pages[0].pieces.slice(0, 3).map(({ id }) => id);
  const move = fc.oneof(
    matrix.map((by) => alter((one) => movedPiece(one, by))),
    matrix.map((by): Step => (scene) => [{ kind: 'transform', page: page.id, pieceIds: some(scene), matrix: by }]),
    fc.constantFrom('front' as const, 'back' as const).map((to): Step => (scene) => {
      const { pieces: all } = scene.pages[0];
      return [{ kind: 'arrange', page: page.id, pieces: restacked(all, all.slice(0, 2), to) }];
    }),
  );
  const group = fc.constant(alter((one) => ({ ...one, group: 'g' as GroupId })));

  it('keeps order, times and identity, and undoing all of it brings the first state back', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(stroke, { minLength: 1, maxLength: 5, selector: ({ id }) => id }),
        fc.array(fc.oneof(rub, move, group), { maxLength: 8 }),
        (strokes, steps) => {
          const first = applyChange(sceneOf([{ page, pieces: [] }]), { kind: 'place', page: page.id, pieces: strokes });
          let scene = first;
          const undo: ReturnType<typeof inverseOf>[] = [];
          const longest = Math.max(...strokes.map(({ points }) => points.lengthMs));
          for (const step of steps) {
            for (const change of step(scene)) {
              undo.unshift(inverseOf(scene, change));
              scene = applyChange(scene, change);
            }
            const now = scene.pages[0].pieces;
            expect(new Set(now.map(({ id }) => id)).size).toBe(now.length);
            expect(now.map(({ z }) => z)).toEqual(now.map(({ z }) => z).sort((a, b) => a - b));
            for (const one of now) {
              if (one.kind !== 'stroke') continue;
              expect([...one.points.sinceMs]).toEqual([...one.points.sinceMs].sort((a, b) => a - b));
              expect(one.points.lengthMs).toBeLessThanOrEqual(longest);
            }
          }
          const last = scene;
          const redo: ReturnType<typeof inverseOf>[] = [];
          for (const change of undo.flat()) {
            redo.unshift(inverseOf(scene, change));
            scene = applyChange(scene, change);
          }
          // Strokes of one height keep their order to all others, if not among themselves.
          const sorted = ({ pages }: Scene) => [...pages[0].pieces].sort((a, b) => (a.id < b.id ? -1 : 1));
          expect(sorted(scene)).toEqual(sorted(first));
          for (const change of redo.flat()) scene = applyChange(scene, change);
          expect(sorted(scene)).toEqual(sorted(last));
        },
      ),
    );
  });
});

describe('arranging', () => {
  it('aligns edges, and keeps groups together', () => {
    const all = [line('a', 10, 10, 'pair'), line('b', 60, 40, 'pair'), line('c', 300, 200)];
    const left = aligned(all, 'left');
    const [a, b, c] = left.map((one) => pieceBounds(one));
    expect(c.left).toBeCloseTo(a.left, 3);
    expect(b.left - a.left).toBeCloseTo(50, 3);
    expect(unitsOf(left).map((unit) => unit.length)).toEqual([2, 1]);
  });

  it('leaves the same gaps between things, and the first and last where they are', () => {
    const all = [line('a', 0, 0), line('b', 55, 0), line('c', 60, 0), line('d', 400, 0)];
    const bounds = distributed(all, 'across').map(pieceBounds);
    const gaps = bounds.slice(1).map((own, i) => own.left - bounds[i].right);
    gaps.forEach((gap) => expect(gap).toBeCloseTo(gaps[0], 3));
    expect(boundsOf(distributed(all, 'across')).right).toBeCloseTo(boundsOf(all).right, 3);
  });

  it('falls in line with what is near, and with nothing that is not', () => {
    const box = (left: number, top: number) => ({ left, top, right: left + 100, bottom: top + 50 });
    expect(snapped(box(103, 300), [box(100, 0)], 5)).toEqual({
      xPt: -3,
      yPt: 0,
      guides: [{ direction: 'down', atPt: 100 }],
    });
    expect(snapped(box(180, 300), [box(100, 0)], 5)).toEqual({ xPt: 0, yPt: 0, guides: [] });
  });

  it('brings pieces before or behind all others, in their own order', () => {
    fc.assert(
      fc.property(pieces, fc.nat(63), (all, choice) => {
        const sorted = all.toSorted((a, b) => a.z - b.z);
        const chosen = sorted.filter((_, i) => choice & (1 << i));
        const others = sorted.filter((one) => !chosen.includes(one));
        for (const to of ['front', 'back'] as const) {
          const arranged = restacked(sorted, chosen, to);
          // Only what is chosen is moved: whatever lies on the page already.
          expect(arranged.map(({ id }) => id)).toEqual(chosen.map(({ id }) => id));
          const before = sceneOf([{ page: wideSquaredPage('page-one' as never), pieces: sorted }]);
          const change = { kind: 'arrange', page: before.shown, pieces: arranged } as const;
          const now = applyChange(before, change).pages[0].pieces;
          const expected = to === 'front' ? [...others, ...chosen] : [...chosen, ...others];
          expect(now.map(({ id }) => id)).toEqual(expected.map(({ id }) => id));
        }
      }),
    );
  });
});

describe('taking hold', () => {
  it('finds ink where it lies now, not where it was written', () => {
    const moved = movedPiece(line('a', 10, 10), [2, 0, 0, 2, 300, 100]);
    expect(pieceAt([moved], { xPt: 320, yPt: 120 }, 2)).toBe(moved);
    expect(pieceAt([moved], { xPt: 12, yPt: 11 }, 2)).toBeUndefined();
  });

  it('means what a loop goes around', () => {
    const all = [line('a', 10, 10), line('b', 100, 100)];
    expect(piecesInLoop(all, [0, 0, 60, 0, 60, 60, 0, 60])).toEqual([all[0]]);
    expect(piecesInLoop(all, [0, 0, 300, 0, 300, 300, 0, 300])).toEqual(all);
  });
});
