import fc from 'fast-check';
import { InkPoints } from '../ink/points';
import type { PageId, PieceId, TakeId } from '../lesson/ids';
import type { Change, Mark } from '../lesson/mark';
import { wideSquaredPage } from '../lesson/page';
import type { Stroke } from '../lesson/piece';
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
    kind: fc.constantFrom('pen' as const, 'highlighter' as const),
    color: fc.constantFrom('#1f2a44', '#d9482b'),
    widthPt: fc.constantFrom(1.5, 3, 14),
  }),
  points,
});

export const change: fc.Arbitrary<Change> = fc.oneof(
  { weight: 5, arbitrary: fc.record({ kind: fc.constant('ink' as const), page: pageId, stroke }) },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('turn' as const), page: pageId }) },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('lift' as const),
      page: pageId,
      pieceIds: fc.uniqueArray(pieceId, { maxLength: 3 }),
    }),
  },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constant('place' as const),
      page: pageId,
      pieces: fc.array(stroke, { maxLength: 3 }),
    }),
  },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constant('add-page' as const),
      page: pageId.map(wideSquaredPage),
      after: fc.option(pageId, { nil: null }),
    }),
  },
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
