import { edgesIn, type Edges } from './edges';
import { angleBetweenDeg, linesAlong, meeting, type Line } from './lines';
import { brightnessOf, type Brightness, type Pixels, type PlacePx } from './pixels';
import { sideThrough } from './sheet-side';

/** The corners of a page as it lies in a photograph: from the one at the top on the left, clockwise. */
export type Corners = readonly [PlacePx, PlacePx, PlacePx, PlacePx];

/** Lines are looked for in a picture of this size: finer, and every thread of a table-cloth is one. */
const COARSE_PX = 360;
/** Where they lie is measured in a picture of this size. */
const FINE_PX = 1600;
/** Opposite sides of a page that is tilted away run together by no more than this. */
const MOST_CONVERGING_DEG = 40;
/** Sides that meet do so at more than this. */
const LEAST_TURN_DEG = 35;
/** A corner may lie outside the picture by this part of it. */
const OUTSIDE_SHARE = 0.1;
const LEAST_AREA_SHARE = 0.1;
/** So much of all sides together, and of each, has to be edge. */
const LEAST_SEEN = 0.5;
const LEAST_SIDE_SEEN = 0.25;
const STATIONS = 36;
/** An edge is seen so near to a side, in pixels of the coarse picture, and so much turned against it. */
const NEAR_PX = 1.5;
const ALONG_COS = Math.cos((20 * Math.PI) / 180);

/**
 * Finds the corners of a sheet of paper in a photograph: the largest four-sided figure whose sides are best seen, among those that the
 * strongest straight lines make, measured anew where it is sharper.
 * @returns in pixels of the photograph, to some tenths of a pixel on a sharp one; `null` where no sheet is seen
 */
export function pageCorners(photograph: Pixels): Corners | null {
  const coarse = brightnessOf(photograph, COARSE_PX);
  const edges = edgesIn(coarse);
  const found = bestFigure(edges, linesAlong(edges));
  if (!found) return null;
  const fine = brightnessOf(photograph, FINE_PX);
  const measured = measuredAnew(fine, scaled(found, fine.widthPx / coarse.widthPx));
  return scaled(measured, photograph.widthPx / fine.widthPx);
}

const scaled = (corners: Corners, factor: number) =>
  corners.map(({ xPx, yPx }) => ({ xPx: xPx * factor, yPx: yPx * factor })) as unknown as Corners;

function bestFigure(edges: Edges, lines: readonly Line[]): Corners | null {
  const turnsDeg = lines.map((one) => lines.map((other) => angleBetweenDeg(one, other)));
  const opposite = lines.flatMap((_, i) =>
    lines.flatMap((_, j) => (j > i && turnsDeg[i][j] <= MOST_CONVERGING_DEG ? [[i, j] as const] : [])),
  );
  let best: { corners: Corners; worth: number } | null = null;
  for (const [i, [a, b]] of opposite.entries()) {
    for (const [c, d] of opposite.slice(i + 1)) {
      const leastTurnDeg = Math.min(turnsDeg[a][c], turnsDeg[a][d], turnsDeg[b][c], turnsDeg[b][d]);
      if (leastTurnDeg < LEAST_TURN_DEG) continue;
      const corners = figureOf([lines[a], lines[c], lines[b], lines[d]]);
      if (!corners || !isWithin(corners, edges)) continue;
      const share = areaOf(corners) / (edges.widthPx * edges.heightPx);
      const worth: number = share < LEAST_AREA_SHARE ? 0 : worthOf(corners, edges, share, best?.worth ?? 0);
      if (worth > (best?.worth ?? 0)) best = { corners, worth };
    }
  }
  return best?.corners ?? null;
}

/** The corners where lines that follow one another meet, from the top on the left, clockwise; `null` where that is no figure. */
function figureOf(lines: readonly Line[]): Corners | null {
  const found: PlacePx[] = [];
  for (const [i, line] of lines.entries()) {
    const corner = meeting(line, lines[(i + 1) % 4]);
    if (!corner) return null;
    found.push(corner);
  }
  const middle = { xPx: mean(found.map(({ xPx }) => xPx)), yPx: mean(found.map(({ yPx }) => yPx)) };
  const around = found
    .map((corner) => ({ corner, turn: Math.atan2(corner.yPx - middle.yPx, corner.xPx - middle.xPx) }))
    .sort((one, other) => one.turn - other.turn)
    .map(({ corner }) => corner);
  // The one that lies nearest to the top on the left comes first.
  const sums = around.map(({ xPx, yPx }) => xPx + yPx);
  const first = sums.indexOf(Math.min(...sums));
  const corners = around.map((_, i) => around[(first + i) % 4]) as unknown as Corners;
  return isConvex(corners) ? corners : null;
}

/** Whether corners follow one another clockwise around a figure that bends inwards nowhere, as those of a sheet do. */
export function isConvex(corners: Corners): boolean {
  return corners.every((corner, i) => {
    const [next, after] = [corners[(i + 1) % 4], corners[(i + 2) % 4]];
    const turn = (next.xPx - corner.xPx) * (after.yPx - next.yPx) - (next.yPx - corner.yPx) * (after.xPx - next.xPx);
    return turn > 0;
  });
}

function isWithin(corners: Corners, { widthPx, heightPx }: Edges): boolean {
  const [x, y] = [OUTSIDE_SHARE * widthPx, OUTSIDE_SHARE * heightPx];
  return corners.every(({ xPx, yPx }) => xPx >= -x && yPx >= -y && xPx <= widthPx + x && yPx <= heightPx + y);
}

/** Twice the sum over a polygon's sides, halved (the shoelace formula). */
const areaOf = (corners: Corners): number =>
  Math.abs(
    corners.reduce((sum, { xPx, yPx }, i) => {
      const next = corners[(i + 1) % 4];
      return sum + xPx * next.yPx - next.xPx * yPx;
    }, 0),
  ) / 2;

/** How well a figure's sides are seen, and how large it is. @param least what is worth less need not be measured to the end */
function worthOf(corners: Corners, edges: Edges, share: number, least: number): number {
  const size = share ** 0.4;
  if (size <= least) return 0;
  const seen: number[] = [];
  for (const [i, corner] of corners.entries()) {
    const side = seenAlong(corner, corners[(i + 1) % 4], edges);
    if (side < LEAST_SIDE_SEEN) return 0;
    seen.push(side);
  }
  if (mean(seen) < LEAST_SEEN) return 0;
  return size * mean(seen) * (0.5 + 0.5 * Math.min(...seen));
}

/** Which part of a side lies on edges that run along it, of one kind: all brighter on the one hand, or all on the other. */
function seenAlong(from: PlacePx, to: PlacePx, { widthPx, heightPx, xs, ys, ridge }: Edges): number {
  const length = Math.hypot(to.xPx - from.xPx, to.yPx - from.yPx);
  const normal = { x: -(to.yPx - from.yPx) / length, y: (to.xPx - from.xPx) / length };
  let [brighter, darker] = [0, 0];
  for (let station = 0; station < STATIONS; station++) {
    const t = (station + 0.5) / STATIONS;
    let found = 0;
    for (let off = -NEAR_PX; off <= NEAR_PX && found === 0; off++) {
      const x = Math.floor(from.xPx + (to.xPx - from.xPx) * t + normal.x * off);
      const y = Math.floor(from.yPx + (to.yPx - from.yPx) * t + normal.y * off);
      if (x < 0 || y < 0 || x >= widthPx || y >= heightPx) continue;
      const at = y * widthPx + x;
      if (!ridge[at]) continue;
      const along = (xs[at] * normal.x + ys[at] * normal.y) / Math.hypot(xs[at], ys[at]);
      if (Math.abs(along) >= ALONG_COS) found = Math.sign(along);
    }
    if (found > 0) brighter++;
    else if (found < 0) darker++;
  }
  return Math.max(brighter, darker) / STATIONS;
}

/** The corners where the sides meet as they are seen in a sharper picture. */
function measuredAnew(picture: Brightness, corners: Corners): Corners {
  const sides = corners.map((corner, i) => sideThrough(picture, corner, corners[(i + 1) % 4]));
  const measured = sides.map((side, i) => meeting(sides[(i + 3) % 4], side) ?? corners[i]);
  return measured as unknown as Corners;
}

const mean = (values: readonly number[]): number => values.reduce((sum, one) => sum + one, 0) / values.length;
