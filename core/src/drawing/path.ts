/**
 * A path as numbers: each command followed by its coordinates, as SVG's path data and canvases have them. Curves are
 * quadratic or cubic Béziers.
 */
export type Path = readonly number[];

export const MOVE = 0;
export const LINE = 1;
export const QUADRATIC = 2;
export const CUBIC = 3;
export const CLOSE = 4;

/** How many coordinates follow each command. */
export const COORDINATES = [2, 2, 4, 6, 0] as const;

/** What a path can be drawn into: a canvas will do. */
export interface PathSink {
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  quadraticCurveTo(cpx: number, cpy: number, x: number, y: number): void;
  bezierCurveTo(cp1x: number, cp1y: number, cp2x: number, cp2y: number, x: number, y: number): void;
  closePath(): void;
}

/** Draws a path, enlarged by a factor and then moved. */
export function trace(path: Path, into: PathSink, scale = 1, x = 0, y = 0): void {
  for (let i = 0; i < path.length; i += 1 + COORDINATES[path[i]]) {
    const at = (n: number) => path[i + n] * scale + (n % 2 === 1 ? x : y);
    switch (path[i]) {
      case MOVE:
        into.moveTo(at(1), at(2));
        break;
      case LINE:
        into.lineTo(at(1), at(2));
        break;
      case QUADRATIC:
        into.quadraticCurveTo(at(1), at(2), at(3), at(4));
        break;
      case CUBIC:
        into.bezierCurveTo(at(1), at(2), at(3), at(4), at(5), at(6));
        break;
      case CLOSE:
        into.closePath();
    }
  }
}

const CURVE_STEPS = 12;

/** The path's lines as x, y pairs, curves cut into straight pieces. */
export function flattened(path: Path): number[][] {
  const lines: number[][] = [];
  let line: number[] = [];
  const curve = (controls: number[]) => {
    const [x, y] = line.slice(-2);
    for (let step = 1; step <= CURVE_STEPS; step++) line.push(...bezierAt([x, y, ...controls], step / CURVE_STEPS));
  };
  trace(path, {
    moveTo: (x, y) => lines.push((line = [x, y])),
    lineTo: (x, y) => line.push(x, y),
    quadraticCurveTo: (...controls) => curve(controls),
    bezierCurveTo: (...controls) => curve(controls),
    closePath: () => line.push(line[0], line[1]),
  });
  return lines;
}

/** De Casteljau's construction. */
function bezierAt(points: number[], t: number): [number, number] {
  let rest = points;
  while (rest.length > 2) rest = rest.slice(2).map((value, i) => rest[i] + (value - rest[i]) * t);
  return [rest[0], rest[1]];
}
