import { InkPoints, type InkSample } from './points';

interface PlacePt {
  x: number;
  y: number;
}

export const EXACT_FIGURES = [
  'line',
  'arrow',
  'rectangle',
  'square',
  'triangle',
  'polygon',
  'ellipse',
  'circle',
] as const;
export type ExactFigure = (typeof EXACT_FIGURES)[number];

/** What a stroke was meant to be: the exact line through its corners, or around an ellipse. */
export interface Exact {
  figure: ExactFigure;
  /** x, y pairs from one corner (or bit of curve) to the next; closed figures end where they begin. */
  path: readonly PlacePt[];
}

/** Smaller strokes are letters, and stay as they are. */
const LEAST_EXTENT_PT = 36;
/** How far, as shares of the stroke's size, what was drawn may be from what was meant. */
const LINE_SLACK = 0.045;
const OUTLINE_SLACK = 0.05;
const ELLIPSE_SLACK = 0.06;
/** The ends of a closed figure come together within this share of its size. */
const CLOSED_SHARE = 0.22;
/** A corner turns by at least this much. */
const CORNER_SLACK = 0.07;
const MOST_CORNERS = 8;
/** Sides this near to upright or level become so; sides this near to one length become equal. */
const LEVEL_RAD = (8 * Math.PI) / 180;
const EQUAL_SHARE = 0.16;
const RIGHT_ANGLE_RAD = (14 * Math.PI) / 180;
const ELLIPSE_STEPS = 72;

/**
 * What a hand-drawn stroke was meant to be: a line, arrow, rectangle, square, triangle, polygon, ellipse or circle.
 * Ellipses are fitted by their moments, corners found by Douglas and Peucker's (1973) reduction of the line.
 * @returns `null` where it is too far off any of them, or too small to be one
 */
export function exactOf(points: InkPoints): Exact | null {
  const drawn = Array.from({ length: points.count }, (_, i) => ({ x: points.xPt[i], y: points.yPt[i] }));
  const size = extent(drawn);
  if (drawn.length < 3 || size < LEAST_EXTENT_PT) return null;
  const places = onceAround(drawn, size);
  const [first, last] = [places[0], places[places.length - 1]];
  if (distance(first, last) > CLOSED_SHARE * size) return straightLine(places) ?? arrow(places, size);
  const ellipse = ellipseOf(places);
  const outline = outlineOf(places, size);
  if (outline && (!ellipse || outline.off <= ellipse.off)) return outline.exact;
  return ellipse?.exact ?? null;
}

/** A hand may go on past where a closed figure began, by at most this share of its way, and so near to where it went before. */
const OVERRUN_SHARE = 0.25;
const OVERRUN_SLACK = 0.1;

/** What was drawn until it came back to where it began: what follows retraces the beginning, as where a circle is closed. */
function onceAround(places: readonly PlacePt[], size: number): readonly PlacePt[] {
  const along = lengthsAlong(places);
  const total = along[along.length - 1];
  const late = along.findIndex((length) => length >= total * (1 - OVERRUN_SHARE));
  const back = late + indexOfMost(places.slice(late), (place) => -distance(place, places[0]));
  if (distance(places[back], places[0]) > OVERRUN_SLACK * size) return places;
  const beginning = places.slice(0, along.findIndex((length) => length >= total * OVERRUN_SHARE) + 1);
  const retraced = beginning.length < 2 ? places.slice(0, 2) : beginning;
  const retraces = offBy(places.slice(back), retraced, size).most <= OVERRUN_SLACK;
  return retraces ? places.slice(0, back + 1) : places;
}

/** The way from the first place to each. */
function lengthsAlong(places: readonly PlacePt[]): number[] {
  const along = [0];
  for (let i = 1; i < places.length; i++) along.push(along[i - 1] + distance(places[i - 1], places[i]));
  return along;
}

/**
 * A stroke's points on its exact figure, spread along it as they were along what was drawn, with their pressures evened
 * and the times they were written at.
 */
export function straightened(points: InkPoints, { path }: Exact): InkPoints {
  const lengths = path.map((_, i) => (i === 0 ? 0 : distance(path[i - 1], path[i])));
  const total = lengths.reduce((sum, length) => sum + length, 0);
  const drawn = drawnShares(points);
  const pressure = points.pressure.reduce((sum, one) => sum + one, 0) / points.count;
  const samples: InkSample[] = [];
  const add = (place: PlacePt, sinceMs: number) =>
    samples.push({ xPt: place.x, yPt: place.y, pressure, sinceMs: Math.round(sinceMs) });
  let passed = 0;
  let corner = 0;
  for (let i = 0; i < points.count; i++) {
    const at = drawn[i] * total;
    // Corners lie on the way, however few points there are.
    while (corner < path.length - 1 && passed + lengths[corner + 1] <= at) {
      passed += lengths[++corner];
      add(path[corner], points.sinceMs[i]);
    }
    if (corner === path.length - 1) continue;
    const share = lengths[corner + 1] === 0 ? 0 : (at - passed) / lengths[corner + 1];
    add(between(path[corner], path[corner + 1], share), points.sinceMs[i]);
  }
  add(path[path.length - 1], points.lengthMs);
  return InkPoints.from(samples);
}

/** How much of a stroke was drawn by each of its points, from 0 to 1. */
function drawnShares({ xPt, yPt, count }: InkPoints): number[] {
  const along = [0];
  for (let i = 1; i < count; i++) along.push(along[i - 1] + Math.hypot(xPt[i] - xPt[i - 1], yPt[i] - yPt[i - 1]));
  const total = along[count - 1];
  return along.map((one, i) => (total === 0 ? i / Math.max(1, count - 1) : one / total));
}

function straightLine(places: readonly PlacePt[]): Exact | null {
  const [first, last] = [places[0], places[places.length - 1]];
  const length = distance(first, last);
  if (furthest(places, first, last).off > LINE_SLACK * length) return null;
  return { figure: 'line', path: levelled(first, last) };
}

/** A line that ends nearly level or upright is so, about its beginning. */
function levelled(from: PlacePt, to: PlacePt): PlacePt[] {
  const angle = Math.atan2(to.y - from.y, to.x - from.x);
  const quarter = Math.round(angle / (Math.PI / 2)) * (Math.PI / 2);
  if (Math.abs(angle - quarter) > LEVEL_RAD / 2) return [from, to];
  const length = distance(from, to);
  return [from, { x: from.x + Math.cos(quarter) * length, y: from.y + Math.sin(quarter) * length }];
}

const HEAD_RAD = (28 * Math.PI) / 180;

/** A shaft, and then back and forth across its end: a head of one stroke. */
function arrow(places: readonly PlacePt[], size: number): Exact | null {
  const corners = reduced(places, CORNER_SLACK * size * 0.6);
  if (corners.length < 4 || corners.length > 5) return null;
  const [tail, tip, ...head] = corners;
  const shaft = distance(tail, tip);
  const isBarb = (place: PlacePt) => {
    const [back, length] = [angleBetween(tip, tail, place), distance(tip, place)];
    return back < (70 * Math.PI) / 180 && back > (8 * Math.PI) / 180 && length > shaft * 0.08 && length < shaft * 0.55;
  };
  // With four turns the pen went back to the tip between the barbs.
  const barbs = head.length === 3 ? [head[0], head[2]] : head;
  if (!barbs.every(isBarb) || side(tail, tip, barbs[0]) === side(tail, tip, barbs[1])) return null;
  if (head.length === 3 && distance(head[1], tip) > shaft * 0.15) return null;
  const [from, to] = levelled(tail, tip);
  const length = barbs.reduce((sum, barb) => sum + distance(tip, barb), 0) / 2;
  const back = Math.atan2(from.y - to.y, from.x - to.x);
  const barb = (turn: number): PlacePt => ({
    x: to.x + Math.cos(back + turn) * length,
    y: to.y + Math.sin(back + turn) * length,
  });
  return { figure: 'arrow', path: [from, to, barb(HEAD_RAD), to, barb(-HEAD_RAD)] };
}

const side = (from: PlacePt, to: PlacePt, { x, y }: PlacePt): number =>
  Math.sign((to.x - from.x) * (y - from.y) - (to.y - from.y) * (x - from.x));

/** The corners of a closed figure, and how far off it what was drawn is, as a share of its size. */
function outlineOf(places: readonly PlacePt[], size: number): { exact: Exact; off: number } | null {
  const corners = closedCorners(places, size);
  if (corners.length < 3 || corners.length > MOST_CORNERS) return null;
  const { most, usual: off } = offBy(places, [...corners, corners[0]], size);
  if (most > OUTLINE_SLACK) return null;
  if (corners.length === 4) {
    const rectangle = rectangleOf(corners);
    if (rectangle) return { exact: rectangle, off };
  }
  const figure = corners.length === 3 ? 'triangle' : 'polygon';
  const exact = corners.length > 4 ? evenPolygon(corners) : corners;
  return { exact: { figure, path: [...exact, exact[0]] }, off };
}

/** Where the ends come together is a corner only if the line turns there. */
function closedCorners(places: readonly PlacePt[], size: number): PlacePt[] {
  // The reduction needs two ends that are corners: those farthest apart are.
  const middle = centre(places);
  const start = indexOfMost(places, (place) => distance(place, middle));
  const turned = [...places.slice(start), ...places.slice(0, start)];
  const far = indexOfMost(turned, (place) => distance(place, turned[0]));
  const slack = CORNER_SLACK * size;
  const corners = [
    ...reduced(turned.slice(0, far + 1), slack).slice(0, -1),
    ...reduced([...turned.slice(far), turned[0]], slack).slice(0, -1),
  ];
  return corners.filter((corner, i) => {
    const [before, after] = [corners[(i + corners.length - 1) % corners.length], corners[(i + 1) % corners.length]];
    return distance(corner, before) > slack && angleBetween(corner, before, after) < Math.PI - 2 * RIGHT_ANGLE_RAD;
  });
}

/** Four corners with right angles; level where they nearly are, a square where the sides are nearly equal. */
function rectangleOf(corners: readonly PlacePt[]): Exact | null {
  const isRight = corners.every((corner, i) => {
    const angle = angleBetween(corner, corners[(i + 3) % 4], corners[(i + 1) % 4]);
    return Math.abs(angle - Math.PI / 2) < RIGHT_ANGLE_RAD;
  });
  if (!isRight) return null;
  const [a, b, c, d] = corners;
  const lean = (from: PlacePt, to: PlacePt) => Math.atan2(to.y - from.y, to.x - from.x);
  const along = (distance(a, b) + distance(d, c)) / 2;
  const down = (distance(b, c) + distance(a, d)) / 2;
  const sloped = lean({ x: a.x + d.x, y: a.y + d.y }, { x: b.x + c.x, y: b.y + c.y });
  const quarter = Math.round(sloped / (Math.PI / 2)) * (Math.PI / 2);
  const turn = Math.abs(sloped - quarter) < LEVEL_RAD ? quarter : sloped;
  const isSquare = Math.abs(along - down) < EQUAL_SHARE * Math.max(along, down);
  const [width, height] = isSquare ? [(along + down) / 2, (along + down) / 2] : [along, down];
  const middle = centre(corners);
  // The corners go round as they were drawn.
  const way = side(a, b, c);
  const place = (u: number, v: number): PlacePt => ({
    x: middle.x + (u * width * Math.cos(turn) - way * v * height * Math.sin(turn)) / 2,
    y: middle.y + (u * width * Math.sin(turn) + way * v * height * Math.cos(turn)) / 2,
  });
  const path = [place(-1, -1), place(1, -1), place(1, 1), place(-1, 1), place(-1, -1)];
  return { figure: isSquare ? 'square' : 'rectangle', path };
}

/** A polygon whose sides and angles are nearly equal has them so. */
function evenPolygon(corners: readonly PlacePt[]): PlacePt[] {
  const middle = centre(corners);
  const radii = corners.map((corner) => distance(corner, middle));
  const radius = radii.reduce((sum, one) => sum + one, 0) / radii.length;
  const way = side(corners[0], corners[1], corners[2]);
  const step = (way * 2 * Math.PI) / corners.length;
  const start = Math.atan2(corners[0].y - middle.y, corners[0].x - middle.x);
  const even = corners.map((_, i) => ({
    x: middle.x + radius * Math.cos(start + i * step),
    y: middle.y + radius * Math.sin(start + i * step),
  }));
  const isEven = corners.every((corner, i) => distance(corner, even[i]) < EQUAL_SHARE * 1.5 * radius);
  return isEven ? even : [...corners];
}

/** An ellipse with the moments of the area within what was drawn: a semi-axis is twice the deviation along it. */
function ellipseOf(places: readonly PlacePt[]): { exact: Exact; off: number } | null {
  const even = evenlySpread(places, ELLIPSE_STEPS);
  const { middle, xx, xy, yy, area } = areaMoments(even);
  if (area === 0) return null;
  const [mean, spread] = [(xx + yy) / 2, Math.hypot((xx - yy) / 2, xy)];
  let [major, minor] = [2 * Math.sqrt(mean + spread), 2 * Math.sqrt(Math.max(0, mean - spread))];
  let turn = Math.atan2(2 * xy, xx - yy) / 2;
  if (minor < major * 0.12) return null;
  const isCircle = major - minor < EQUAL_SHARE * major;
  if (isCircle) major = minor = (major + minor) / 2;
  const quarter = Math.round(turn / (Math.PI / 2)) * (Math.PI / 2);
  if (Math.abs(turn - quarter) < LEVEL_RAD) turn = quarter;
  const at = (angle: number): PlacePt => ({
    x: middle.x + major * Math.cos(angle) * Math.cos(turn) - minor * Math.sin(angle) * Math.sin(turn),
    y: middle.y + major * Math.cos(angle) * Math.sin(turn) + minor * Math.sin(angle) * Math.cos(turn),
  });
  const angleOf = ({ x, y }: PlacePt) => {
    const [dx, dy] = [x - middle.x, y - middle.y];
    const along = dx * Math.cos(turn) + dy * Math.sin(turn);
    const across = -dx * Math.sin(turn) + dy * Math.cos(turn);
    return Math.atan2(across / minor, along / major);
  };
  const gaps = even.map((place) => distance(place, at(angleOf(place))));
  const off = Math.max(...gaps) / (2 * major);
  const typical = gaps.reduce((sum, gap) => sum + gap, 0) / gaps.length / (2 * major);
  if (typical > ELLIPSE_SLACK / 2 || off > ELLIPSE_SLACK * 2) return null;
  const start = angleOf(even[0]);
  const way = Math.sign(area);
  const path = Array.from({ length: ELLIPSE_STEPS + 1 }, (_, i) => at(start + (way * 2 * Math.PI * i) / ELLIPSE_STEPS));
  return { exact: { figure: isCircle ? 'circle' : 'ellipse', path }, off: typical };
}

/** Area, middle and second moments of what a closed line goes around (Green's theorem); the area is signed by its way round. */
function areaMoments(places: readonly PlacePt[]) {
  let [area, x, y, xx, xy, yy] = [0, 0, 0, 0, 0, 0];
  places.forEach((a, i) => {
    const b = places[(i + 1) % places.length];
    const cross = a.x * b.y - b.x * a.y;
    area += cross / 2;
    x += ((a.x + b.x) * cross) / 6;
    y += ((a.y + b.y) * cross) / 6;
    xx += ((a.x * a.x + a.x * b.x + b.x * b.x) * cross) / 12;
    yy += ((a.y * a.y + a.y * b.y + b.y * b.y) * cross) / 12;
    xy += ((a.x * b.y + 2 * a.x * a.y + 2 * b.x * b.y + b.x * a.y) * cross) / 24;
  });
  const middle = { x: x / area, y: y / area };
  return {
    area,
    middle,
    xx: xx / area - middle.x ** 2,
    xy: xy / area - middle.x * middle.y,
    yy: yy / area - middle.y ** 2,
  };
}

function evenlySpread(places: readonly PlacePt[], count: number): PlacePt[] {
  const along = lengthsAlong(places);
  const total = along[along.length - 1];
  let i = 1;
  return Array.from({ length: count }, (_, n) => {
    const at = (total * n) / count;
    while (i < places.length - 1 && along[i] < at) i++;
    const length = along[i] - along[i - 1];
    return between(places[i - 1], places[i], length === 0 ? 0 : (at - along[i - 1]) / length);
  });
}

/** The corners of a line, its ends among them (Douglas and Peucker). */
function reduced(places: readonly PlacePt[], slack: number): PlacePt[] {
  const [first, last] = [places[0], places[places.length - 1]];
  const { at, off } = furthest(places, first, last);
  if (off <= slack) return [first, last];
  return [...reduced(places.slice(0, at + 1), slack).slice(0, -1), ...reduced(places.slice(at), slack)];
}

function furthest(places: readonly PlacePt[], from: PlacePt, to: PlacePt): { at: number; off: number } {
  const at = indexOfMost(places, (place) => offSegment(place, from, to));
  return { at, off: offSegment(places[at], from, to) };
}

/** How far what was drawn is from a line of corners, at most and as a rule, as shares of a size. */
function offBy(places: readonly PlacePt[], line: readonly PlacePt[], size: number): { most: number; usual: number } {
  const off = (place: PlacePt) => Math.min(...line.slice(1).map((to, i) => offSegment(place, line[i], to)));
  const all = places.map((place) => off(place) / size);
  return { most: Math.max(...all), usual: all.reduce((sum, one) => sum + one, 0) / all.length };
}

function offSegment(place: PlacePt, from: PlacePt, to: PlacePt): number {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const square = dx * dx + dy * dy;
  const share = square === 0 ? 0 : ((place.x - from.x) * dx + (place.y - from.y) * dy) / square;
  return distance(place, between(from, to, Math.min(1, Math.max(0, share))));
}

function indexOfMost<T>(all: readonly T[], of: (one: T) => number): number {
  let best = 0;
  all.forEach((one, i) => {
    if (of(one) > of(all[best])) best = i;
  });
  return best;
}

const between = (a: PlacePt, b: PlacePt, share: number): PlacePt => ({
  x: a.x + (b.x - a.x) * share,
  y: a.y + (b.y - a.y) * share,
});
const distance = (a: PlacePt, b: PlacePt): number => Math.hypot(a.x - b.x, a.y - b.y);
const centre = (places: readonly PlacePt[]): PlacePt => ({
  x: places.reduce((sum, { x }) => sum + x, 0) / places.length,
  y: places.reduce((sum, { y }) => sum + y, 0) / places.length,
});
const extent = (places: readonly PlacePt[]): number => {
  const [xs, ys] = [places.map(({ x }) => x), places.map(({ y }) => y)];
  return Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
};

/** The angle at a corner between two other places, from 0 to half a turn. */
function angleBetween(corner: PlacePt, a: PlacePt, b: PlacePt): number {
  const turn = Math.atan2(a.y - corner.y, a.x - corner.x) - Math.atan2(b.y - corner.y, b.x - corner.x);
  return Math.abs(Math.atan2(Math.sin(turn), Math.cos(turn)));
}

/** A pen that moves less than this is still. */
const STILL_PT = 3;

/** How long the pen was held still before it was lifted, in milliseconds. */
export function heldStillMs({ xPt, yPt, sinceMs, count }: InkPoints): number {
  const last = count - 1;
  let i = last;
  while (i > 0 && Math.hypot(xPt[i - 1] - xPt[last], yPt[i - 1] - yPt[last]) < STILL_PT) i--;
  return sinceMs[last] - sinceMs[i];
}
