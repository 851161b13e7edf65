import { IDENTITY, movedTo, scaleOfMatrix, type Matrix } from '../lesson/matrix';
import type { Stroke } from '../lesson/piece';
import { eraserReaches, pointDistance } from './hit';
import { halfWidthsPt } from './outline';
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

/** A place of a stroke's path: its sample, where that lies on the page, and how far the ink reaches to either side of it. */
interface Inked {
  sample: InkSample;
  at: PlacePt;
  halfWidthPt: number;
}

/**
 * What is left of a stroke after a round eraser has moved along a line of the page: the parts before, between and after what
 * it has covered, in the order they were written, each with the times and pressures it was written with (its own clock
 * begins with its first point). Ink is as broad as it is painted, and lies where it was moved to. `null` where the eraser does
 * not touch the stroke.
 */
export function rubbed(stroke: Stroke, from: PlacePt, to: PlacePt, radiusPt: number): InkPoints[] | null {
  if (!eraserReaches(stroke, from, to, radiusPt)) return null;
  const inked = inkedPlaces(stroke);
  const gapOf = ({ at, halfWidthPt }: Inked) =>
    pointDistance(at.xPt, at.yPt, from.xPt, from.yPt, to.xPt, to.yPt) - radiusPt - halfWidthPt;
  const parts: InkSample[][] = [];
  let part: InkSample[] = [];
  const endPart = () => {
    if (part.length > 0) parts.push(part);
    part = [];
  };
  let isTouched = false;
  inked.forEach((place, i) => {
    const before = inked[i - 1];
    const covered = before && coveredOf((t) => gapOf(betweenInked(before, place, t)));
    if (covered) {
      isTouched = true;
      if (covered[0] > 0) part.push(between(before.sample, place.sample, covered[0]));
      endPart();
      if (covered[1] < 1) part.push(between(before.sample, place.sample, covered[1]));
    }
    if (gapOf(place) > 0) part.push(place.sample);
    else {
      isTouched = true;
      endPart();
    }
  });
  endPart();
  if (!isTouched) return null;
  return parts.filter((samples) => lengthPt(samples) > stroke.pen.widthPt * SPECK_SHARE).map(newPoints);
}

function inkedPlaces(stroke: Stroke): Inked[] {
  const matrix: Matrix = stroke.matrix ?? IDENTITY;
  const scale = scaleOfMatrix(matrix);
  return Array.from(halfWidthsPt(stroke), (halfWidthPt, i) => {
    const sample = sampleAt(stroke.points, i);
    return { sample, at: movedTo(matrix, sample), halfWidthPt: halfWidthPt * scale };
  });
}

const betweenInked = (a: Inked, b: Inked, t: number): Inked => ({
  sample: a.sample,
  at: { xPt: mix(a.at.xPt, b.at.xPt, t), yPt: mix(a.at.yPt, b.at.yPt, t) },
  halfWidthPt: mix(a.halfWidthPt, b.halfWidthPt, t),
});

/**
 * The stretch of a line that is covered, by how far each place of it is from being so. Along a straight line the distance to
 * the eraser's path is convex, and the ink's width changes evenly, so what is covered is one stretch.
 */
function coveredOf(gap: (t: number) => number): Covered | null {
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

const sampleAt = ({ xPt, yPt, pressure, sinceMs, tilt }: InkPoints, i: number): InkSample => ({
  xPt: xPt[i],
  yPt: yPt[i],
  pressure: pressure[i],
  sinceMs: sinceMs[i],
  tiltXDeg: tilt?.xDeg[i],
  tiltYDeg: tilt?.yDeg[i],
});

const mix = (from: number, to: number, t: number): number => from + (to - from) * t;

const between = (a: InkSample, b: InkSample, t: number): InkSample => ({
  xPt: mix(a.xPt, b.xPt, t),
  yPt: mix(a.yPt, b.yPt, t),
  pressure: mix(a.pressure, b.pressure, t),
  sinceMs: mix(a.sinceMs, b.sinceMs, t),
  tiltXDeg: mix(a.tiltXDeg ?? 0, b.tiltXDeg ?? 0, t),
  tiltYDeg: mix(a.tiltYDeg ?? 0, b.tiltYDeg ?? 0, t),
});

function lengthPt(samples: readonly InkSample[]): number {
  let length = 0;
  for (let i = 1; i < samples.length; i++) {
    length += Math.hypot(samples[i].xPt - samples[i - 1].xPt, samples[i].yPt - samples[i - 1].yPt);
  }
  return length;
}

const newPoints = (samples: readonly InkSample[]): InkPoints =>
  InkPoints.from(samples.map((sample) => ({ ...sample, sinceMs: sample.sinceMs - samples[0].sinceMs })));
