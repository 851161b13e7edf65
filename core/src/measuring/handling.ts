import type { Instrument } from '../lesson/content';
import { frameMatrix, storableFrame, type Frame } from '../lesson/frame';
import { composed, movedTo, moveBy, turnAbout, type Matrix } from '../lesson/matrix';
import { FIRST_SIZE, PROTRACTOR_STRIP_PT, PT_PER_CM } from './instrument';

interface PlacePt {
  xPt: number;
  yPt: number;
}

const DEGREE_RAD = Math.PI / 180;
/** Turns go in whole degrees, and fall into place near the angles that are wanted most. */
const WANTED_RAD = 15 * DEGREE_RAD;
const WANTED_REACH_RAD = 1.6 * DEGREE_RAD;

/** The nearest turn an instrument is laid at by hand. */
export function storableTurn(turnRad: number): number {
  const wanted = Math.round(turnRad / WANTED_RAD) * WANTED_RAD;
  if (Math.abs(turnRad - wanted) <= WANTED_REACH_RAD) return wanted;
  return Math.round(turnRad / DEGREE_RAD) * DEGREE_RAD;
}

/**
 * What two fingers do to a thing that cannot stretch: it turns as the line between them does, and goes where their middle
 * goes. With one finger it only moves.
 * @param from where the fingers were, and `to` where they are now: one or two places each
 */
export function carried(from: readonly PlacePt[], to: readonly PlacePt[]): Matrix {
  const [was, is] = [middleOf(from), middleOf(to)];
  const moved = moveBy(is.xPt - was.xPt, is.yPt - was.yPt);
  if (from.length < 2 || to.length < 2) return moved;
  const turnRad = directionOf(to) - directionOf(from);
  return composed(turnAbout(is, turnRad), moved);
}

function middleOf(places: readonly PlacePt[]): PlacePt {
  const share = 1 / places.length;
  return places.reduce((sum, { xPt, yPt }) => ({ xPt: sum.xPt + xPt * share, yPt: sum.yPt + yPt * share }), {
    xPt: 0,
    yPt: 0,
  });
}

const directionOf = ([one, other]: readonly PlacePt[]): number => Math.atan2(other.yPt - one.yPt, other.xPt - one.xPt);

/** An instrument's frame turned about its middle, in steps that are easy to hit. */
export const turned = (frame: Frame, turnRad: number): Frame =>
  storableFrame({ ...frame, turnRad: storableTurn(turnRad) }, 1);

/** An instrument's frame turned a step further about its middle, in whole degrees. */
export const turnedBy = (frame: Frame, byRad: number): Frame =>
  storableFrame({ ...frame, turnRad: Math.round((frame.turnRad + byRad) / DEGREE_RAD) * DEGREE_RAD }, 1);

const LEAST_WIDTH_PT = PT_PER_CM;
const MOST_WIDTH_PT = 60 * PT_PER_CM;

/**
 * An instrument made longer, larger or, of compasses, opened: the end of a ruler, the corner of a set square, the middle
 * of a protractor and the point of compasses stay where they are.
 */
export function sized(instrument: Instrument, frame: Frame, wantedPt: number): Frame {
  const widthPt = Math.min(MOST_WIDTH_PT, Math.max(LEAST_WIDTH_PT, wantedPt));
  const next = { ...frame, widthPt, heightPt: heightFor(instrument, frame, widthPt) };
  const was = movedTo(frameMatrix(frame), fixedPlace(instrument, frame));
  const is = movedTo(frameMatrix(next), fixedPlace(instrument, next));
  return storableFrame({ ...next, xPt: frame.xPt + was.xPt - is.xPt, yPt: frame.yPt + was.yPt - is.yPt }, 1);
}

function heightFor(instrument: Instrument, { heightPt }: Frame, widthPt: number): number {
  if (instrument === 'set-square') return widthPt;
  return instrument === 'protractor' ? widthPt / 2 + PROTRACTOR_STRIP_PT : heightPt;
}

function fixedPlace(instrument: Instrument, { widthPt, heightPt }: Frame): PlacePt {
  switch (instrument) {
    case 'ruler':
    case 'compasses':
      return { xPt: -widthPt / 2, yPt: 0 };
    case 'set-square':
      return { xPt: -widthPt / 2, yPt: heightPt / 2 };
    case 'protractor':
      return { xPt: 0, yPt: heightPt / 2 - PROTRACTOR_STRIP_PT };
  }
}

/** Laid down, an instrument takes no more than this share of what is seen of the page. */
const MOST_SHARE = 0.72;

/** Where it is laid, from the middle of what is seen, in shares of its sides: the first place that is free. */
const PLACES = [
  [0, 0],
  [0.12, 0.2],
  [-0.12, -0.2],
  [0.12, -0.2],
] as const;

/**
 * Where an instrument lies when it is laid on the part of a page that is seen: in its middle, or beside what lies there.
 * @param others the frames of those that lie on the page
 */
export function laidDown(
  instrument: Instrument,
  seen: { left: number; top: number; right: number; bottom: number },
  others: readonly Pick<Frame, 'xPt' | 'yPt'>[] = [],
): Frame {
  const [width, height] = [seen.right - seen.left, seen.bottom - seen.top];
  const isFree = ({ xPt, yPt }: PlacePt) =>
    others.every((other) => Math.hypot((other.xPt - xPt) / width, (other.yPt - yPt) / height) > PLACES[1][0]);
  const places = PLACES.map(([across, down]) => ({
    xPt: (seen.left + seen.right) / 2 + across * width,
    yPt: (seen.top + seen.bottom) / 2 + down * height,
  }));
  const middle = places.find(isFree) ?? places[0];
  const frame = { ...middle, ...FIRST_SIZE[instrument], turnRad: 0, mirrored: false };
  const roomPt = width * MOST_SHARE;
  const fitting = frame.widthPt <= roomPt ? frame : sized(instrument, frame, roomPt);
  return storableFrame({ ...fitting, ...middle }, 1);
}
