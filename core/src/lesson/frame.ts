import { STEPS_PER_PT } from '../ink/points';
import { composed, isMirroring, movedTo, turnOfMatrix, type Matrix } from './matrix';
import type { RectPt } from './rect';

/** A box on the page, turned about its middle. */
export interface Frame {
  xPt: number;
  yPt: number;
  widthPt: number;
  heightPt: number;
  /** Clockwise. */
  turnRad: number;
  /** Left and right change places, before it is turned. */
  mirrored: boolean;
}

/** Turns are kept in steps of a 40,000th of a full turn. */
const TURN_STEPS = 40_000;
const FULL_TURN_RAD = 2 * Math.PI;
const LEAST_SIDE_PT = 4;

// Adding 0 makes −0 plain 0, which is what is read back.
const snapPt = (pt: number) => Math.round(pt * STEPS_PER_PT) / STEPS_PER_PT + 0;

/** The steps of a turn, between 0 and a full one. */
export const turnSteps = (turnRad: number): number => {
  const steps = Math.round((turnRad / FULL_TURN_RAD) * TURN_STEPS) % TURN_STEPS;
  return steps < 0 ? steps + TURN_STEPS : steps + 0;
};
export const turnOfSteps = (steps: number): number => (steps / TURN_STEPS) * FULL_TURN_RAD;

/** The frame on the storage grid, so that what is shown now is to the bit what is read back later. */
export const storableFrame = (frame: Frame, leastPt = LEAST_SIDE_PT): Frame => ({
  xPt: snapPt(frame.xPt),
  yPt: snapPt(frame.yPt),
  widthPt: snapPt(Math.max(leastPt, frame.widthPt)),
  heightPt: snapPt(Math.max(leastPt, frame.heightPt)),
  turnRad: turnOfSteps(turnSteps(frame.turnRad)),
  mirrored: frame.mirrored,
});

/** The smallest upright rectangle around a turned frame. */
export function frameBounds({ xPt, yPt, widthPt, heightPt, turnRad }: Frame): RectPt {
  const [cos, sin] = [Math.abs(Math.cos(turnRad)), Math.abs(Math.sin(turnRad))];
  const halfWidth = (widthPt * cos + heightPt * sin) / 2;
  const halfHeight = (widthPt * sin + heightPt * cos) / 2;
  return { left: xPt - halfWidth, top: yPt - halfHeight, right: xPt + halfWidth, bottom: yPt + halfHeight };
}

/** An upright frame around a rectangle. */
export const frameOf = ({ left, top, right, bottom }: RectPt): Frame => ({
  xPt: (left + right) / 2,
  yPt: (top + bottom) / 2,
  widthPt: right - left,
  heightPt: bottom - top,
  turnRad: 0,
  mirrored: false,
});

/** From the frame's own place, its middle at 0, 0 and its sides along the axes, to the page. */
export function frameMatrix({ xPt, yPt, turnRad, mirrored }: Frame): Matrix {
  const [cos, sin] = [Math.cos(turnRad), Math.sin(turnRad)];
  const flip = mirrored ? -1 : 1;
  return [cos * flip, sin * flip, -sin, cos, xPt, yPt];
}

/** A place of the page, seen from the frame: its middle is 0, 0, its sides lie along the axes. */
export function placeInFrame(frame: Frame, at: { xPt: number; yPt: number }): { xPt: number; yPt: number } {
  const [dx, dy] = [at.xPt - frame.xPt, at.yPt - frame.yPt];
  const [cos, sin] = [Math.cos(frame.turnRad), Math.sin(frame.turnRad)];
  return { xPt: (dx * cos + dy * sin) * (frame.mirrored ? -1 : 1), yPt: -dx * sin + dy * cos };
}

/** The corners of a frame on the page, in order around it. */
export function cornersOf(frame: Frame): { xPt: number; yPt: number }[] {
  const matrix = frameMatrix(frame);
  const [halfWidth, halfHeight] = [frame.widthPt / 2, frame.heightPt / 2];
  return [
    { xPt: -halfWidth, yPt: -halfHeight },
    { xPt: halfWidth, yPt: -halfHeight },
    { xPt: halfWidth, yPt: halfHeight },
    { xPt: -halfWidth, yPt: halfHeight },
  ].map((corner) => movedTo(matrix, corner));
}

/** Where a frame goes when the page is moved by a matrix. What would shear it only sizes it along its own sides. */
export function movedFrame(frame: Frame, matrix: Matrix): Frame {
  const whole = composed(matrix, frameMatrix(frame));
  const [a, b, c, d, xPt, yPt] = whole;
  const mirrored = isMirroring(whole);
  const flip = mirrored ? -1 : 1;
  return {
    xPt,
    yPt,
    widthPt: frame.widthPt * Math.hypot(a, b),
    heightPt: frame.heightPt * Math.hypot(c, d),
    turnRad: turnOfMatrix([a * flip, b * flip, c, d, 0, 0]),
    mirrored,
  };
}
