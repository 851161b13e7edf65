import { strokesTouched } from '@kite-trail/core/ink/hit';
import { InkPoints } from '@kite-trail/core/ink/points';
import { rubbed } from '@kite-trail/core/ink/rub';
import { exactOf, heldStillMs, straightened } from '@kite-trail/core/ink/straighten';
import { pieceBounds } from '@kite-trail/core/lesson/bounds';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { isPassing } from '@kite-trail/core/lesson/mark';
import { grown } from '@kite-trail/core/lesson/page';
import { newStroke, type Stroke } from '@kite-trail/core/lesson/piece';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { scaleOf } from '@kite-trail/core/paint/view';
import { nanoid } from 'nanoid';
import type { PlacePt, WetStroke } from '../capture/pen-input';
import { useDesk } from '../lesson/desk';
import { usePages } from '../pages/pages';
import type { PassingLayer } from './passing-layer';
import { usePens } from './pens/pens';
import { useView } from './view';

/** How far around its tip the eraser of whole strokes reaches. */
const ERASER_RADIUS_PT = 5;
/** Held still so long before it is lifted, a pen asks for exact lines. */
export const HELD_STILL_MS = 500;

interface Rubbing {
  page: PageId;
  touched: readonly Stroke[];
  from: PlacePt;
  to: PlacePt;
  radiusPt: number;
}

/** Puts on the desk what pens write and erasers take away. */
export function useInkWriter(passing: PassingLayer) {
  const desk = useDesk();
  const pens = usePens();
  const pages = usePages();
  const view = useView();

  function written(stroke: WetStroke, points: InkPoints): void {
    const piece = newStroke({ id: nanoid(12) as PieceId, z: desk.nextZ(), pen: stroke.pen, points });
    const ink = { kind: 'ink' as const, page: desk.scene!.shown, stroke: piece };
    if (isPassing(ink)) {
      desk.pass(ink, stroke.beganMs);
      return passing.show(ink, stroke.beganMs);
    }
    desk.beginGesture();
    desk.change(ink, stroke.beganMs);
    if (pages.grows) growFor(piece);
    desk.endGesture();
    if (!stroke.isLed) makeExact(piece);
  }

  /** What was drawn and held becomes exact, as a step of its own: undone once, it is as it was drawn. */
  function makeExact(piece: Stroke): void {
    if (pens.straight !== 'always' && heldStillMs(piece.points) < HELD_STILL_MS) return;
    const exact = exactOf(piece.points);
    if (!exact) return;
    const points = straightened(piece.points, exact);
    desk.change({ kind: 'alter', page: desk.scene!.shown, pieces: [{ ...piece, points }] });
  }

  /** A page that is full at its foot grows, and goes on being seen as large as it was. */
  function growFor(piece: Stroke): void {
    const { page } = shownPage(desk.scene!);
    const { bottom } = pieceBounds(piece);
    const taller = grown(page, bottom);
    if (taller === page) return;
    const before = scaleOf(page, view.box, view.view);
    pages.alter(taller);
    view.keepScale(taller, before, bottom);
  }

  /** @param palmPx how broad the palm is that rubs; without one, the eraser in hand does */
  function erase(from: PlacePt, to: PlacePt, atMs: number, palmPx?: number): void {
    desk.beginGesture();
    const { page, pieces } = shownPage(desk.scene!);
    const { takes } = pens.eraser;
    const isPalm = palmPx !== undefined;
    const radiusPt = isPalm ? palmPx / 2 / scaleOf(page, view.box, view.view) : pens.eraser.radiusPt;
    if (takes === 'parts' || isPalm) {
      return rub({ page: page.id, touched: strokesTouched(pieces, from, to, radiusPt), from, to, radiusPt }, atMs);
    }
    const touched = strokesTouched(pieces, from, to, ERASER_RADIUS_PT);
    if (touched.length > 0) desk.change({ kind: 'lift', page: page.id, pieceIds: touched.map(({ id }) => id) }, atMs);
  }

  /** Takes away what the eraser has rubbed over; what is left of a stroke becomes strokes of their own. */
  function rub({ page, touched, from, to, radiusPt }: Rubbing, atMs: number): void {
    const pieceIds: PieceId[] = [];
    const left: Stroke[] = [];
    for (const stroke of touched) {
      const parts = rubbed(stroke, from, to, radiusPt);
      if (!parts) continue;
      pieceIds.push(stroke.id);
      left.push(...parts.map((points): Stroke => ({ ...stroke, id: nanoid(12) as PieceId, points })));
    }
    if (pieceIds.length === 0) return;
    desk.change({ kind: 'lift', page, pieceIds }, atMs);
    if (left.length > 0) desk.change({ kind: 'place', page, pieces: left }, atMs);
  }

  return { written, erase };
}

/** A stroke as it would be if the pen were lifted now: a pen that is held still shows what its line will become. */
export function strokeOf(stroke: WetStroke): Stroke {
  const points = InkPoints.from(stroke.samples);
  const staysAsDrawn = stroke.isLed || stroke.pen.kind === 'fading' || !isHeldStill(points, stroke.beganMs);
  const exact = staysAsDrawn ? null : exactOf(points);
  const own = { id: 'wet' as PieceId, z: 0, pen: stroke.pen };
  return newStroke({ ...own, points: exact ? straightened(points, exact) : points });
}

/** A pen that rests sends nothing: how long it has been still is told by the clock. */
function isHeldStill(points: InkPoints, beganMs: number): boolean {
  const sinceLastMs = performance.now() - beganMs - points.lengthMs;
  return heldStillMs(points) + sinceLastMs >= HELD_STILL_MS;
}
