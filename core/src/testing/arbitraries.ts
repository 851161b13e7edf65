import fc from 'fast-check';
import { InkPoints } from '../ink/points';
import type { AssetId, PageId, PieceId, TakeId } from '../lesson/ids';
import type { Change, Mark } from '../lesson/mark';
import { PAPER_KINDS, wideSquaredPage, type Page } from '../lesson/page';
import { settled } from '../lesson/picture';
import { PEN_KINDS, type Picture, type Piece, type Stroke } from '../lesson/piece';
import { sceneOf, type Scene } from '../lesson/scene';
import type { Programme, Segment } from '../trail/programme';
import type { Take } from '../trail/take';
import { sortMarks } from '../trail/timeline';

/** Few ids, so that marks often name the same pages and pieces. */
const pageIds = ['page-one', 'page-two', 'page-three'] as PageId[];
const pageId = fc.constantFrom(...pageIds);
const pieceId = fc.integer({ min: 0, max: 12 }).map((n) => `piece-${n}` as PieceId);

export const points = fc
  .array(
    fc.record({
      xPt: fc.float({ min: -20, max: 980, noNaN: true }),
      yPt: fc.float({ min: -20, max: 560, noNaN: true }),
      pressure: fc.float({ min: 0, max: 1, noNaN: true }),
      stepMs: fc.nat(60),
    }),
    { minLength: 1, maxLength: 12 },
  )
  .map((samples) => {
    let sinceMs = 0;
    return InkPoints.from(
      samples.map(({ stepMs, ...rest }, i) => ({ ...rest, sinceMs: i === 0 ? 0 : (sinceMs += stepMs) })),
    );
  });

export const stroke: fc.Arbitrary<Stroke> = fc.record({
  kind: fc.constant('stroke' as const),
  id: pieceId,
  z: fc.integer({ min: 1, max: 30 }),
  pen: fc.record({
    kind: fc.constantFrom(...PEN_KINDS),
    color: fc.constantFrom('#1f2a44', '#d9482b'),
    widthPt: fc.constantFrom(1.5, 3, 14),
  }),
  points,
});

const assetId = fc.constantFrom('a'.repeat(64) as AssetId, 'b'.repeat(64) as AssetId);
const fraction = fc.double({ min: 0, max: 1, noNaN: true });

export const picture: fc.Arbitrary<Picture> = fc
  .record({
    id: pieceId,
    z: fc.integer({ min: 1, max: 30 }),
    asset: assetId,
    frame: fc.record({
      xPt: fc.double({ min: -100, max: 1000, noNaN: true }),
      yPt: fc.double({ min: -100, max: 600, noNaN: true }),
      widthPt: fc.double({ min: 4, max: 900, noNaN: true }),
      heightPt: fc.double({ min: 4, max: 900, noNaN: true }),
      turnRad: fc.double({ min: -7, max: 7, noNaN: true }),
      mirrored: fc.boolean(),
    }),
    edges: fc.tuple(fraction, fraction, fraction, fraction),
    cutOut: fc.option(fc.array(fraction, { minLength: 6, maxLength: 6 }), { nil: [] }),
    opacity: fraction,
    locked: fc.boolean(),
  })
  .map(({ edges: [a, b, c, d], cutOut, ...rest }) =>
    settled({
      kind: 'picture',
      ...rest,
      crop: {
        left: Math.min(a, b) * 0.4,
        right: 0.5 + Math.max(a, b) * 0.5,
        top: Math.min(c, d) * 0.4,
        bottom: 0.5 + Math.max(c, d) * 0.5,
      },
      cutOut: Float32Array.from(cutOut),
    }),
  );

export const piece: fc.Arbitrary<Piece> = fc.oneof(stroke, picture);

/** In whole points, which the storage grid holds exactly. */
export const page: fc.Arbitrary<Page> = fc.record({
  id: pageId,
  leftPt: fc.integer({ min: -400, max: 0 }),
  topPt: fc.integer({ min: -400, max: 0 }),
  widthPt: fc.integer({ min: 300, max: 1200 }),
  heightPt: fc.integer({ min: 300, max: 1200 }),
  paper: fc.record({
    kind: fc.constantFrom(...PAPER_KINDS),
    color: fc.constantFrom('#fffdf7', '#15233b'),
    lineColor: fc.constant('#d5e3e6'),
    spacingPt: fc.integer({ min: 6, max: 72 }),
    picture: fc.option(assetId, { nil: null }),
  }),
  sheet: fc.option(
    fc.record({
      asset: assetId,
      pageIndex: fc.option(fc.nat(300), { nil: null }),
      widthPt: fc.integer({ min: 100, max: 900 }),
      heightPt: fc.integer({ min: 100, max: 900 }),
    }),
    { nil: null },
  ),
});

const after = fc.option(pageId, { nil: null });

export const change: fc.Arbitrary<Change> = fc.oneof(
  { weight: 6, arbitrary: fc.record({ kind: fc.constant('ink' as const), page: pageId, stroke }) },
  { weight: 3, arbitrary: fc.record({ kind: fc.constant('turn' as const), page: pageId }) },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('lift' as const),
      page: pageId,
      pieceIds: fc.uniqueArray(pieceId, { maxLength: 3 }),
    }),
  },
  {
    weight: 4,
    arbitrary: fc.record({
      kind: fc.constantFrom('place' as const, 'alter' as const),
      page: pageId,
      pieces: fc.uniqueArray(piece, { maxLength: 3, selector: ({ id }) => id }),
    }),
  },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('add-page' as const), page, after }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('alter-page' as const), page }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('move-page' as const), page: pageId, after }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('drop-page' as const), page: pageId }) },
);

export const TAKE_SAMPLES = 480_000;

export const marks: fc.Arbitrary<Mark[]> = fc
  .array(fc.tuple(fc.nat(TAKE_SAMPLES), change), { maxLength: 150 })
  .map((pairs) => sortMarks(pairs.map(([atSamples, one]) => ({ atSamples, ...one }))));

export const takeIds = ['take-one', 'take-two'] as TakeId[];

export const takes: fc.Arbitrary<ReadonlyMap<TakeId, Take>> = fc
  .tuple(marks, marks)
  .map(
    (both) =>
      new Map(
        takeIds.map((id, i): [TakeId, Take] => [id, { id, lengthSamples: TAKE_SAMPLES, sound: null, marks: both[i] }]),
      ),
  );

export const segment: fc.Arbitrary<Segment> = fc
  .record({
    take: fc.constantFrom(...takeIds),
    ends: fc.tuple(fc.nat(TAKE_SAMPLES), fc.nat(TAKE_SAMPLES)),
    pace: fc.constantFrom<Segment['pace']>(1, 1, 1, 2, 4, 'at-once'),
  })
  .map(({ take, ends, pace }) => ({ take, fromSamples: Math.min(...ends), toSamples: Math.max(...ends), pace }));

export const programme: fc.Arbitrary<Programme> = fc.array(segment, { maxLength: 8 });

export const base: Scene = sceneOf([{ page: wideSquaredPage(pageIds[0]), pieces: [] }]);
