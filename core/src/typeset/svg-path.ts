import { CLOSE, CUBIC, LINE, MOVE, QUADRATIC, type Path } from '../drawing/path';

/** How many numbers each command takes (SVG 2, section 9.3). Arcs do not occur in letters. */
const COUNTS: Record<string, number> = { M: 2, L: 2, H: 1, V: 1, Q: 4, T: 2, C: 6, S: 4, Z: 0 };

/** A command with what follows it; an `e` between digits is an exponent's. The grammar of SVG 2, section 9.3.9. */
const COMMANDS = /([A-DF-Za-df-z])((?:[^A-Za-z]|[eE])*)/g;
const NUMBERS = /[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?/g;

/** Path data with absolute commands, as SVG writes them. @throws SyntaxError */
export function parsedPath(data: string): Path {
  const path: number[] = [];
  let [x, y] = [0, 0];
  // Where the last curve's control lay, mirrored about its end: smooth curves go on from there.
  let smooth: [number, number] = [0, 0];
  for (const [, command, rest] of data.matchAll(COMMANDS)) {
    const count = COUNTS[command];
    if (count === undefined) throw new SyntaxError(`Paths with “${command}” are not understood.`);
    const values = [...rest.matchAll(NUMBERS)].map(([value]) => Number(value));
    for (let i = 0; i === 0 || i < values.length; i += count || 1) {
      const at = values.slice(i, i + count);
      switch (command) {
        case 'M':
          path.push(i === 0 ? MOVE : LINE, ...at);
          break;
        case 'L':
          path.push(LINE, ...at);
          break;
        case 'H':
          path.push(LINE, at[0], y);
          break;
        case 'V':
          path.push(LINE, x, at[0]);
          break;
        case 'Q':
          path.push(QUADRATIC, ...at);
          break;
        case 'T':
          path.push(QUADRATIC, ...smooth, ...at);
          break;
        case 'C':
          path.push(CUBIC, ...at);
          break;
        case 'S':
          path.push(CUBIC, ...smooth, ...at);
          break;
        case 'Z':
          path.push(CLOSE);
      }
      if (command === 'Z') break;
      const [controlX, controlY] = 'QTCS'.includes(command) ? path.slice(-4, -2) : path.slice(-2);
      [x, y] = path.slice(-2);
      smooth = [2 * x - controlX, 2 * y - controlY];
    }
  }
  return path;
}
