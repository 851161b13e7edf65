/**
 * What is drawn as a cloud of points that know which way the line runs there, so that neither the number of strokes nor
 * their order and direction matter. Points are spread evenly as in Vatavu, Anthony and Wobbrock, “Gestures as point
 * clouds: a $P recognizer for user interface prototypes”, ICMI 2012; clouds are compared by the modified Hausdorff
 * distance (Dubuisson and Jain, ICPR 1994), each point with its nearest, which on letters of hands not learnt from
 * was right more often than matching them one to one.
 */
export interface Cloud {
  x: Float64Array;
  y: Float64Array;
  /** Which way the line runs: cosine and sine of twice its angle, so that a line is the same from either end. */
  cosine: Float64Array;
  sine: Float64Array;
  /** A dot is among its strokes, as an i's: little ink that says much. */
  hasDot: boolean;
}

const POINTS = 32;
/** What lines that cross at a right angle count for, as the square of a share of the letter's size. */
const DIRECTION_WEIGHT = 0.02;
/** Narrow and wide ways to write a letter are brought half way to one another: the power of each side's own size. */
const OWN_SIDE = 0.5;
/** But a thin line stays thin. */
const THINNEST = 0.3;

/** A stroke as x, y pairs. */
export type Polyline = readonly number[];

/** The cloud of some strokes, about its middle, within a box of about 1. */
export function cloudOf(strokes: readonly Polyline[]): Cloud {
  const { x, y, dx, dy } = spread(withDotsDrawn(strokes));
  const [width, height] = [extent(x), extent(y)];
  const size = Math.max(width, height) || 1;
  const sideOf = (own: number) => size ** (1 - OWN_SIDE) * Math.max(own, size * THINNEST) ** OWN_SIDE;
  const [across, down] = [sideOf(width), sideOf(height)];
  const [middleX, middleY] = [mean(x), mean(y)];
  const doubled = dx.map((along, i) => 2 * Math.atan2(dy[i] / down, along / across));
  return {
    x: x.map((value) => (value - middleX) / across),
    y: y.map((value) => (value - middleY) / down),
    cosine: doubled.map(Math.cos),
    sine: doubled.map(Math.sin),
    hasDot:
      strokes.length > 1 && strokes.some((stroke) => extentOf(stroke) < extentOf(strokes.flat()) * LARGEST_DOT_SHARE),
  };
}

const extent = (values: Float64Array): number => Math.max(...values) - Math.min(...values);
const mean = (values: Float64Array): number => values.reduce((sum, value) => sum + value, 0) / values.length;

/** What is smaller than this share of all of the letter is a dot. */
const LARGEST_DOT_SHARE = 0.18;
/** What it counts for, as a share of the letter's size, that one has a dot and the other has none. */
const DOT_WEIGHT = 0.05;
/** A dot that is tapped is as high as one that is drawn, such as an i's: this share of all of the letter. */
const TAPPED_SHARE = 0.06;

/** The longer side of the box around a stroke. */
const extentOf = (stroke: Polyline): number =>
  Math.max(...[0, 1].map((side) => extent(Float64Array.from(stroke.filter((_, i) => i % 2 === side)))));

/** A dot that was tapped has no length, and points lie along lines: it counts as a short line down. */
function withDotsDrawn(strokes: readonly Polyline[]): readonly Polyline[] {
  const isTapped = (stroke: Polyline) => lengthOf(stroke) === 0;
  if (strokes.length === 1 || !strokes.some(isTapped)) return strokes;
  const half = (extentOf(strokes.flat()) * TAPPED_SHARE) / 2;
  return strokes.map((stroke) => {
    const [x, y] = stroke;
    return isTapped(stroke) ? [x, y - half, x, y + half] : stroke;
  });
}

/** Points evenly along the strokes, with which way each goes. */
function spread(strokes: readonly Polyline[]) {
  const [x, y] = [new Float64Array(POINTS), new Float64Array(POINTS)];
  const [dx, dy] = [new Float64Array(POINTS), new Float64Array(POINTS)];
  const step = strokes.reduce((sum, stroke) => sum + lengthOf(stroke), 0) / (POINTS - 1);
  let count = 0;
  let sinceLast = step;
  for (const stroke of strokes) {
    for (let i = 2; i < stroke.length; i += 2) {
      const [fromX, fromY] = [stroke[i - 2], stroke[i - 1]];
      const [alongX, alongY] = [stroke[i] - fromX, stroke[i + 1] - fromY];
      const length = Math.hypot(alongX, alongY);
      // The next point is due so far from here.
      let at = step - sinceLast;
      for (; at <= length && length > 0 && count < POINTS; at += step) {
        x[count] = fromX + (alongX * at) / length;
        y[count] = fromY + (alongY * at) / length;
        [dx[count], dy[count]] = [alongX, alongY];
        count++;
      }
      sinceLast = length - (at - step);
    }
  }
  // Rounding may leave out the last; a dot is all in one place.
  const end = strokes.at(-1)!;
  for (; count < POINTS; count++) {
    [x[count], y[count]] = end.slice(-2);
    [dx[count], dy[count]] = count > 0 ? [dx[count - 1], dy[count - 1]] : [1, 0];
  }
  return { x, y, dx, dy };
}

export function lengthOf(stroke: Polyline): number {
  let length = 0;
  for (let i = 2; i < stroke.length; i += 2) {
    length += Math.hypot(stroke[i] - stroke[i - 2], stroke[i + 1] - stroke[i - 1]);
  }
  return length;
}

/** How high a stroke is. */
export function heightOf(stroke: Polyline): number {
  const ys = stroke.filter((_, i) => i % 2 === 1);
  return Math.max(...ys) - Math.min(...ys);
}

/**
 * How far two clouds are apart, as a share of their size: 0 for the same.
 * @param atMost from here on, how far exactly does not matter
 */
export function cloudDistance(one: Cloud, other: Cloud, atMost = Infinity): number {
  const dots = one.hasDot === other.hasDot ? 0 : DOT_WEIGHT;
  const there = dots + nearestMean(one, other, atMost - dots);
  return there >= atMost ? atMost : Math.max(there, dots + nearestMean(other, one, atMost - dots));
}

/** How far a cloud's points are on average from the nearest of the other. This is where reading spends its time. */
function nearestMean(from: Cloud, to: Cloud, atMost: number): number {
  const { x, y, cosine, sine } = to;
  let sum = 0;
  for (let i = 0; i < POINTS; i++) {
    const atX = from.x[i];
    const atY = from.y[i];
    const atCosine = from.cosine[i];
    const atSine = from.sine[i];
    let least = Infinity;
    for (let j = 0; j < POINTS; j++) {
      const dx = atX - x[j];
      const dy = atY - y[j];
      // The square of the chord between two directions on the unit circle.
      const turn = 2 - 2 * (atCosine * cosine[j] + atSine * sine[j]);
      const gap = dx * dx + dy * dy + DIRECTION_WEIGHT * turn;
      if (gap < least) least = gap;
    }
    sum += Math.sqrt(Math.max(0, least));
    if (sum >= atMost * POINTS) return atMost;
  }
  return sum / POINTS;
}
