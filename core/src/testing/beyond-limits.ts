import fc from 'fast-check';
import { InkPoints } from '../ink/points';
import type { PageId, PieceId } from '../lesson/ids';
import type { ArrangedPiece, Change } from '../lesson/mark';
import type { Matrix } from '../lesson/matrix';
import type { ComposedPiece, Piece, Stroke } from '../lesson/piece';
import { change, composedPiece, page, picture, stroke } from './arbitraries';

/**
 * Changes with values at, just within and far beyond every limit, as a program with a fault in it, or somebody determined,
 * would make them.
 */

const whole = fc.oneof(
  fc.integer(),
  fc.maxSafeInteger(),
  fc.constantFrom(0, -1, 2 ** 40, 2 ** 40 + 1, -(2 ** 40), NaN, 0.5, Infinity),
);
const number = fc.oneof(
  fc.double(),
  fc.integer({ min: -2000, max: 2000 }),
  fc.constantFrom(1_000_000, 1_000_001, -1_000_000, 3.4e38, 3.5e38, NaN, Infinity, -Infinity, 0),
);
const onGrid = number.map((value) => Math.round(value * 32) / 32 + 0);
const letters = fc.oneof(
  fc.string({ unit: 'grapheme', maxLength: 60 }),
  fc.integer({ min: 3998, max: 4003 }).map((count) => 'x'.repeat(count)),
  fc.constantFrom(
    'x'.repeat(200),
    'x'.repeat(201),
    'x'.repeat(1000),
    'x'.repeat(1001),
    'x'.repeat(2000),
    'x'.repeat(2001),
  ),
);
const id = fc.oneof(
  fc.stringMatching(/^[A-Za-z0-9_-]{12}$/),
  fc.string({ maxLength: 70 }),
  fc.constantFrom('', 'x'.repeat(64), 'x'.repeat(65), 'page-one', 'naïve-name'),
);
const color = fc.constantFrom('#1f2a44', '#D9482B', 'red', '', '#12345');
const fraction = fc.oneof(fc.constantFrom(0, 1, 0.5, -0.1, 1.1, NaN), fc.double({ min: 0, max: 1, noNaN: true }));
const storableFraction = fraction.map((value) => Math.round(value * 65_535) / 65_535);

/** Mostly as it is: what is wrong is mostly one thing. */
const sometimes = <T>(usual: T, odd: fc.Arbitrary<T>) => fc.option(odd, { nil: usual, freq: 5 }).map((one) => one as T);

const points = fc
  .array(fc.tuple(number, number, fc.double(), fc.nat()), { maxLength: 5 })
  .map((samples) => InkPoints.from(samples.map(([xPt, yPt, pressure, sinceMs]) => ({ xPt, yPt, pressure, sinceMs }))));
const matrix: fc.Arbitrary<Matrix> = fc
  .tuple(number, number, number, number, number, number)
  .map((all) => all.map((value) => Math.fround(value) + 0) as unknown as Matrix);
const doubles: fc.Arbitrary<Matrix> = fc
  .tuple(number, number, number, number, number, number)
  .map((all) => all.map((value) => value + 0) as unknown as Matrix);
const frame = fc.record({
  xPt: onGrid,
  yPt: onGrid,
  widthPt: onGrid,
  heightPt: onGrid,
  turnRad: fc.constantFrom(0, NaN),
  mirrored: fc.boolean(),
});
const link = fc.oneof(
  fc.constant(null),
  fc.record({ to: fc.constant('web' as const), url: fc.oneof(fc.webUrl(), letters) }),
  fc.record({ to: fc.constant('page' as const), page: id.map((one) => one as PageId) }),
);

const oddBase = <P extends Piece>(piece: P): fc.Arbitrary<P> =>
  fc
    .record({
      id: sometimes(piece.id, id as fc.Arbitrary<PieceId>),
      z: sometimes(piece.z, whole),
      opacity: sometimes(piece.opacity, fraction),
      link: sometimes(piece.link, link as fc.Arbitrary<P['link']>),
    })
    .map((own) => ({ ...piece, ...own }));

const oddStroke: fc.Arbitrary<Stroke> = stroke.chain(oddBase).chain((one) =>
  fc
    .record({
      points: sometimes(one.points, points),
      matrix: sometimes(one.matrix, matrix),
      pen: fc.record({
        kind: sometimes(one.pen.kind, fc.constant('quill' as never)),
        color: sometimes(one.pen.color, color),
        widthPt: sometimes(one.pen.widthPt, onGrid),
      }),
    })
    .map((own) => ({ ...one, ...own })),
);

const oddComposed: fc.Arbitrary<ComposedPiece> = composedPiece.chain(oddBase).chain((one) =>
  fc
    .record({
      frame: sometimes(one.frame, frame),
      content: sometimes<ComposedPiece['content']>(
        one.content,
        letters.map((text) =>
          one.kind === 'text'
            ? { ...one.content, text }
            : one.kind === 'formula'
              ? { ...one.content, tex: text }
              : one.kind === 'shape' && one.content.label
                ? { ...one.content, label: { ...one.content.label, text } }
                : one.kind === 'plot'
                  ? {
                      ...one.content,
                      curves: Array.from({ length: (text.length % 12) + 1 }, () => ({
                        expression: text,
                        color: '#1f2a44',
                      })),
                    }
                  : one.content,
        ),
      ),
      drawing: sometimes(
        one.drawing,
        fc.record({ widthPt: onGrid, heightPt: onGrid }).map((size) => ({ ...one.drawing, ...size })),
      ),
    })
    .map((own) => ({ ...one, ...own }) as ComposedPiece),
);

const oddPicture = picture.chain(oddBase).chain((one) =>
  fc
    .record({
      asset: sometimes(one.asset, id as fc.Arbitrary<never>),
      frame: sometimes(one.frame, frame),
      crop: sometimes(
        one.crop,
        fc.record({ left: storableFraction, top: storableFraction, right: storableFraction, bottom: storableFraction }),
      ),
      cutOut: sometimes(
        one.cutOut,
        fc.array(storableFraction, { maxLength: 5 }).map((all) => Float32Array.from(all)),
      ),
    })
    .map((own) => ({ ...one, ...own })),
);

const oddPiece: fc.Arbitrary<Piece> = fc.oneof(oddStroke, oddComposed, oddPicture);
const pieces = fc.uniqueArray(oddPiece, { maxLength: 3, selector: (one) => one.id });
const pageId = fc.oneof(
  { weight: 4, arbitrary: fc.constantFrom('page-one', 'page-two') },
  { weight: 1, arbitrary: id },
) as fc.Arbitrary<PageId>;

const oddPage = page.chain((one) =>
  fc
    .record({
      id: sometimes(one.id, id as fc.Arbitrary<PageId>),
      widthPt: sometimes(one.widthPt, onGrid),
      heightPt: sometimes(one.heightPt, onGrid),
      leftPt: sometimes(one.leftPt, onGrid),
      paper: fc.record({
        kind: sometimes(one.paper.kind, fc.constant('parchment' as never)),
        color: sometimes(one.paper.color, color),
        lineColor: fc.constant(one.paper.lineColor),
        spacingPt: sometimes(one.paper.spacingPt, onGrid),
        picture: sometimes(one.paper.picture, id as fc.Arbitrary<never>),
      }),
      scale: sometimes(one.scale, fc.record({ perCm: number, unit: fc.string({ unit: 'grapheme', maxLength: 16 }) })),
    })
    .map((own) => ({ ...one, ...own })),
);

const arranged: fc.Arbitrary<ArrangedPiece> = fc.oneof(
  fc.record({ id: id as fc.Arbitrary<PieceId>, z: whole }),
  fc.record({ id: id as fc.Arbitrary<PieceId>, matrix: fc.option(matrix, { nil: null }) }),
  fc.record({ id: id as fc.Arbitrary<PieceId>, frame }),
);

export const anyChange: fc.Arbitrary<Change> = fc.oneof(
  { weight: 2, arbitrary: change },
  { weight: 3, arbitrary: fc.record({ kind: fc.constant('ink' as const), page: pageId, stroke: oddStroke }) },
  {
    weight: 4,
    arbitrary: fc.record({ kind: fc.constantFrom('place' as const, 'alter' as const), page: pageId, pieces }),
  },
  fc.record({
    kind: fc.constant('lift' as const),
    page: pageId,
    pieceIds: fc.array(id as fc.Arbitrary<PieceId>, { maxLength: 3 }),
  }),
  fc.record({
    kind: fc.constant('transform' as const),
    page: pageId,
    pieceIds: fc.array(id as fc.Arbitrary<PieceId>, { maxLength: 2 }),
    matrix: doubles,
  }),
  fc.record({ kind: fc.constant('arrange' as const), page: pageId, pieces: fc.array(arranged, { maxLength: 2 }) }),
  fc.record({ kind: fc.constant('add-page' as const), page: oddPage, after: fc.option(pageId, { nil: null }) }),
  fc.record({ kind: fc.constant('alter-page' as const), page: oddPage }),
  fc.record({ kind: fc.constant('move-page' as const), page: pageId, after: fc.option(pageId, { nil: null }) }),
  fc.record({
    kind: fc.constant('look' as const),
    page: pageId,
    rect: fc.option(fc.record({ left: onGrid, top: onGrid, right: onGrid, bottom: onGrid }), { nil: null }),
  }),
  fc.record({
    kind: fc.constant('point' as const),
    page: pageId,
    pointing: fc.record({
      pointer: fc.constantFrom('dot' as const, 'arrow' as const, 'finger' as never),
      color,
      points,
    }),
  }),
);
