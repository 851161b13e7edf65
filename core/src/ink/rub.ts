import type { Stroke } from '../lesson/piece';
import { eraserReaches, pointDistance } from './hit';
import { localPath } from './local';
import { InkPoints, type InkSample } from './points';

/** What is left of a stroke is dropped when it is shorter than this share of the pen's width: it would be a speck. */
const SPECK_SHARE = 0.3;
const HALVINGS = 24;

interface PlacePt {
  xPt: number;
  yPt: number;
}

/** The stretch of a line that the eraser covers, as fractions of it. */
type Covered = readonly [from: number, to: number];

/**
 * What is left of a stroke after a round eraser has moved along a line: the parts before, between and after what it has
 * covered, in the order they were written, each with the times and pressures it was written with (its own clock begins
 * with its first point). `null` where the eraser does not touch the stroke.
 */
export function rubbed(
  stroke: Stroke,
  fromOnPage: PlacePt,
  toOnPage: PlacePt,
  radiusOnPagePt: number,
): InkPoints[] | null {
  if (!eraserReaches(stroke, fromOnPage, toOnPage, radiusOnPagePt)) return null;
  const { from, to, radiusPt } = localPath(stroke, fromOnPage, toOnPage, radiusOnPagePt);
  const reachPt = radiusPt + stroke.pen.widthPt / 2;
  const { count } = stroke.points;
  const parts: InkSample[][] = [];
  let part: InkSample[] = [];
  const endPart = () => {
    if (part.length > 0) parts.push(part);
    part = [];
  };
  let isTouched = false;
  for (let i = 0; i < count; i++) {
    const sample = sampleAt(stroke.points, i);
    if (i > 0) {
      const before = sampleAt(stroke.points, i - 1);
      const covered = coveredOf(before, sample, from, to, reachPt);
      if (covered) {
        isTouched = true;
        if (covered[0] > 0) part.push(between(before, sample, covered[0]));
        endPart();
        if (covered[1] < 1) part.push(between(before, sample, covered[1]));
      }
    }
    if (distanceOf(sample, from, to) > reachPt) part.push(sample);
    else {
      isTouched = true;
      endPart();
    }
  }
  endPart();
  if (!isTouched) return null;
  return parts.filter((samples) => lengthPt(samples) > stroke.pen.widthPt * SPECK_SHARE).map(newPoints);
}

const distanceOf = ({ xPt, yPt }: PlacePt, from: PlacePt, to: PlacePt): number =>
  pointDistance(xPt, yPt, from.xPt, from.yPt, to.xPt, to.yPt);

/** The distance from a line's points to the eraser's path is convex along it, so what is covered is one stretch. */
function coveredOf(a: InkSample, b: InkSample, from: PlacePt, to: PlacePt, reachPt: number): Covered | null {
  const gap = (t: number) => distanceOf(between(a, b, t), from, to) - reachPt;
  const nearest = lowest(gap);
  if (gap(nearest) > 0) return null;
  return [gap(0) <= 0 ? 0 : edge(gap, 0, nearest), gap(1) <= 0 ? 1 : edge(gap, 1, nearest)];
}

/** Where a convex function is least between 0 and 1. */
function lowest(of: (t: number) => number): number {
  let [low, high] = [0, 1];
  for (let n = 0; n < 2 * HALVINGS; n++) {
    const third = (high - low) / 3;
    if (of(low + third) <= of(high - third)) high -= third;
    else low += third;
  }
  // At the ends themselves the search only comes near.
  return [0, 1, (low + high) / 2].reduce((best, t) => (of(t) < of(best) ? t : best));
}

/** Where a function changes its sign between a place outside and one inside. */
function edge(of: (t: number) => number, outside: number, inside: number): number {
  for (let n = 0; n < HALVINGS; n++) {
    const middle = (outside + inside) / 2;
    if (of(middle) > 0) outside = middle;
    else inside = middle;
  }
  return outside;
}

const sampleAt = ({ xPt, yPt, pressure, sinceMs }: InkPoints, i: number): InkSample => ({
  xPt: xPt[i],
  yPt: yPt[i],
  pressure: pressure[i],
  sinceMs: sinceMs[i],
});

function between(a: InkSample, b: InkSample, t: number): InkSample {
  const mix = (from: number, to: number) => from + (to - from) * t;
  return {
    xPt: mix(a.xPt, b.xPt),
    yPt: mix(a.yPt, b.yPt),
    pressure: mix(a.pressure, b.pressure),
    sinceMs: mix(a.sinceMs, b.sinceMs),
  };
}

function lengthPt(samples: readonly InkSample[]): number {
  let length = 0;
  for (let i = 1; i < samples.length; i++) {
    length += Math.hypot(samples[i].xPt - samples[i - 1].xPt, samples[i].yPt - samples[i - 1].yPt);
  }
  return length;
}

const newPoints = (samples: readonly InkSample[]): InkPoints =>
  InkPoints.from(samples.map((sample) => ({ ...sample, sinceMs: sample.sinceMs - samples[0].sinceMs })));
