import fc from 'fast-check';
import { InkPoints } from '../ink/points';
import { onGrid, type Drawing } from '../drawing/drawing';
import { CLOSE, LINE, MOVE, QUADRATIC, type Path } from '../drawing/path';
import { FIGURES, FONTS, INSTRUMENTS, type ComposedKind, type Contents, type TextStyle } from '../lesson/content';
import { storableFrame, type Frame } from '../lesson/frame';
import type { AssetId, GroupId, PageId, PieceId, TakeId } from '../lesson/ids';
import { POINTERS, type ArrangedPiece, type Change, type Mark } from '../lesson/mark';
import { composed, moveBy, scaleAbout, storableMatrix, turnAbout, type Matrix } from '../lesson/matrix';
import { PAPER_KINDS, wideSquaredPage, type Page } from '../lesson/page';
import { storable } from '../lesson/picture';
import {
  NEW,
  PEN_KINDS,
  storableOpacity,
  type ComposedPiece,
  type Link,
  type Picture,
  type Piece,
  type Stroke,
} from '../lesson/piece';
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
      // Most devices tell no lean; some more than there is.
      tiltXDeg: fc.option(fc.integer({ min: -100, max: 100 }), { nil: undefined, freq: 1 }),
      tiltYDeg: fc.option(fc.integer({ min: -9, max: 9 }), { nil: undefined, freq: 1 }),
    }),
    { minLength: 1, maxLength: 12 },
  )
  .map((samples) => {
    let sinceMs = 0;
    return InkPoints.from(
      samples.map(({ stepMs, ...rest }, i) => ({ ...rest, sinceMs: i === 0 ? 0 : (sinceMs += stepMs) })),
    );
  });

const opacity = fc.double({ min: 0, max: 1, noNaN: true }).map(storableOpacity);

/** Mostly as new. */
const traits = fc
  .tuple(
    fc.record({ id: pieceId, z: fc.integer({ min: -9, max: 30 }) }),
    fc.option(
      fc.record({
        opacity,
        locked: fc.boolean(),
        group: fc.constantFrom(null, 'group-one' as GroupId),
        link: fc.constantFrom<Link | null>(
          null,
          { to: 'web', url: 'https://harbour.example/tides?day=1' },
          { to: 'page', page: pageIds[1] },
        ),
        handsOut: fc.boolean(),
      }),
      { nil: NEW, freq: 2 },
    ),
  )
  .map(([own, rest]) => ({ ...own, ...rest }));

const coordinate = fc.double({ min: -40, max: 1000, noNaN: true });
export const matrix: fc.Arbitrary<Matrix> = fc
  .tuple(
    coordinate,
    coordinate,
    fc.double({ min: 0.2, max: 4, noNaN: true }),
    fc.double({ min: -4, max: 4, noNaN: true }),
  )
  .map(([xPt, yPt, scale, turn]) =>
    composed(moveBy(xPt / 4, yPt / 4), composed(turnAbout({ xPt, yPt }, turn), scaleAbout({ xPt, yPt }, scale))),
  );

const withBase = <T extends object>(own: fc.Arbitrary<T>) =>
  fc.tuple(traits, own).map(([base, rest]) => ({ ...base, ...rest }));

const ownStroke = fc.record({
  kind: fc.constant('stroke' as const),
  matrix: fc.option(matrix.map(storableMatrix), { nil: null, freq: 2 }),
  pen: fc.record({
    kind: fc.constantFrom(...PEN_KINDS),
    color: fc.constantFrom('#1f2a44', '#d9482b'),
    widthPt: fc.constantFrom(1.5, 3, 14),
  }),
  points,
});
export const stroke: fc.Arbitrary<Stroke> = withBase(ownStroke);

const assetId = fc.constantFrom('a'.repeat(64) as AssetId, 'b'.repeat(64) as AssetId);
const fraction = fc.double({ min: 0, max: 1, noNaN: true });

export const frame: fc.Arbitrary<Frame> = fc
  .record({
    xPt: fc.double({ min: -100, max: 1000, noNaN: true }),
    yPt: fc.double({ min: -100, max: 600, noNaN: true }),
    widthPt: fc.double({ min: 4, max: 900, noNaN: true }),
    heightPt: fc.double({ min: 4, max: 900, noNaN: true }),
    turnRad: fc.double({ min: -7, max: 7, noNaN: true }),
    mirrored: fc.boolean(),
  })
  .map((one) => storableFrame(one));

const ownPicture = fc
  .record({
    asset: assetId,
    frame,
    edges: fc.tuple(fraction, fraction, fraction, fraction),
    cutOut: fc.option(fc.array(fraction, { minLength: 6, maxLength: 6 }), { nil: [] }),
  })
  .map(({ edges: [a, b, c, d], cutOut, ...rest }) =>
    storable({
      kind: 'picture' as const,
      ...NEW,
      id: '' as PieceId,
      z: 0,
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

export const picture: fc.Arbitrary<Picture> = fc.tuple(ownPicture, traits).map(([own, base]) => ({ ...own, ...base }));

const color = fc.constantFrom('#1f2a44', '#d9482b');
const style: fc.Arbitrary<TextStyle> = fc.record({
  font: fc.constantFrom(...FONTS),
  sizePt: fc.integer({ min: 8, max: 60 }),
  bold: fc.boolean(),
  color,
  align: fc.constantFrom('left' as const, 'center' as const, 'right' as const),
});
const words = fc.constantFrom('Tide', 'High water\nat 14:20', 'ΔT ≈ 3 “knots” 🪁');

const path: fc.Arbitrary<Path> = fc
  .array(
    fc.oneof(
      fc.tuple(fc.constant(LINE), fc.integer({ min: -900, max: 900 }), fc.integer({ min: -900, max: 900 })),
      fc.tuple(fc.constant(QUADRATIC), fc.nat(900), fc.nat(900), fc.nat(900), fc.nat(900)),
      fc.constant([CLOSE]),
    ),
    { maxLength: 6 },
  )
  .map((parts) => [MOVE, 10, -10, ...parts.flat()]);

/** Letters and lines lie within their drawing's box, as those that are set do. */
const drawing: fc.Arbitrary<Drawing> = fc
  .record({ widthPt: fc.integer({ min: 10, max: 400 }), heightPt: fc.integer({ min: 10, max: 200 }) })
  .chain(({ widthPt, heightPt }) => {
    const least = Math.min(widthPt, heightPt);
    const inBox = path.map((one) => one.map(onGrid((value) => Math.min(least, Math.abs(value)))));
    const letter = fc.integer({ min: 4, max: least }).chain((sizePt) =>
      fc.record({
        outline: path.map((one) => one.map(onGrid(Math.abs))),
        xPt: fc.integer({ min: 0, max: widthPt - sizePt }),
        yPt: fc.integer({ min: 0, max: heightPt - sizePt }),
        sizePt: fc.constant(sizePt),
      }),
    );
    return fc.record({
      widthPt: fc.constant(widthPt),
      heightPt: fc.constant(heightPt),
      letters: fc.array(letter, { maxLength: 4 }),
      lines: fc.array(
        fc.record({
          path: inBox,
          color: fc.option(color, { nil: null }),
          widthPt: fc.constantFrom(0, 1.5),
        }),
        { maxLength: 3 },
      ),
    });
  });

const composedOf = <Kind extends ComposedKind>(kind: Kind, content: fc.Arbitrary<Contents[Kind]>) =>
  withBase(fc.record({ kind: fc.constant(kind), frame, content, drawing }));

export const shape = composedOf(
  'shape',
  fc.record({
    figure: fc.constantFrom(...FIGURES),
    sides: fc.integer({ min: 3, max: 9 }),
    color,
    widthPt: fc.constantFrom(0, 1.5, 4),
    dash: fc.constantFrom('solid' as const, 'dashed' as const, 'dotted' as const),
    fill: fc.option(color, { nil: null }),
    shadow: fc.boolean(),
    label: fc.option(fc.record({ text: words, style }), { nil: null }),
  }),
);

/** Anything that was described, not drawn by hand. */
export const composedPiece: fc.Arbitrary<ComposedPiece> = fc.oneof(
  composedOf('text', fc.record({ text: words, style, wrapPt: fc.option(fc.constant(200), { nil: null }) })),
  shape,
  composedOf('formula', fc.record({ tex: fc.constantFrom('\\frac{1}{2}', 'x^2'), color, sizePt: fc.constant(20) })),
  composedOf(
    'plot',
    fc.record({
      x: fc.constant({ from: -1, to: 2.5 }),
      y: fc.constant({ from: 0, to: 10 }),
      grid: fc.boolean(),
      color,
      curves: fc.array(fc.record({ expression: fc.constantFrom('x^2', 'sin(x)'), color }), { maxLength: 2 }),
    }),
  ),
  composedOf(
    'instrument',
    fc.record({
      instrument: fc.constantFrom(...INSTRUMENTS),
      scale: fc.constantFrom({ perCm: 1, unit: 'cm' }, { perCm: 0.3, unit: 'NM' }),
    }),
  ),
);

export const piece: fc.Arbitrary<Piece> = fc.oneof(
  { weight: 3, arbitrary: stroke },
  { weight: 2, arbitrary: picture },
  { weight: 2, arbitrary: composedPiece },
);

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
  scale: fc.constantFrom(null, { perCm: 0.1, unit: 'NM' }, { perCm: 2, unit: 'km²' }),
});

const after = fc.option(pageId, { nil: null });

const arrangedPiece: fc.Arbitrary<ArrangedPiece> = fc
  .record({
    id: pieceId,
    z: fc.option(fc.integer({ min: -20, max: 40 }), { nil: undefined }),
    matrix: fc.option(fc.option(matrix.map(storableMatrix), { nil: null }), { nil: undefined }),
    frame: fc.option(frame, { nil: undefined }),
  })
  // What is not said is not there.
  .map((one) => JSON.parse(JSON.stringify(one)) as ArrangedPiece);

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
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('transform' as const),
      page: pageId,
      pieceIds: fc.uniqueArray(pieceId, { maxLength: 5 }),
      matrix,
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('arrange' as const),
      page: pageId,
      pieces: fc.uniqueArray(arrangedPiece, { maxLength: 4, selector: ({ id }) => id }),
    }),
  },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('add-page' as const), page, after }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('alter-page' as const), page }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('move-page' as const), page: pageId, after }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('drop-page' as const), page: pageId }) },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constant('look' as const),
      page: pageId,
      rect: fc.option(fc.constant({ left: 10, top: -20.5, right: 300, bottom: 200 }), { nil: null }),
    }),
  },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constant('point' as const),
      page: pageId,
      pointing: fc.record({ pointer: fc.constantFrom(...POINTERS), color, points }),
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
    pace: fc.constantFrom(1, 1, 1, 2, 4, 'at-once' as const, 'still' as const),
    isSilenced: fc.integer({ min: 0, max: 5 }).map((n) => n === 0),
  })
  .map(({ take, ends, pace, isSilenced }): Segment => {
    const [fromSamples, toSamples] = [Math.min(...ends), Math.max(...ends)];
    if (pace === 'still') return { kind: pace, take, atSamples: fromSamples, forSamples: toSamples };
    const stretch = { take, fromSamples, toSamples };
    if (pace === 'at-once') return { kind: pace, ...stretch };
    return { kind: 'play', ...stretch, pace, ...(isSilenced && pace === 1 ? { voice: null } : {}) };
  });

export const programme: fc.Arbitrary<Programme> = fc.array(segment, { maxLength: 8 });

export const base: Scene = sceneOf([{ page: wideSquaredPage(pageIds[0]), pieces: [] }]);
