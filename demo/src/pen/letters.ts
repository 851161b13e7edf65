import hershey from 'hersheytext/hersheytext.json' with { type: 'json' };

export interface Point {
  x: number;
  y: number;
}

/** One movement of the pen between down and up. */
export type Path = readonly Point[];

/** The single-stroke sans alphabet: baseline at 22, capitals 21 high, the advance twice the offset `o`. */
const { chars } = hershey.futural as { chars: { d: string; o: number }[] };
const BASELINE = 22;
const CAP_HEIGHT = 21;
const FIRST_CODE = '!'.charCodeAt(0);
const SPACE_ADVANCE = 16;

/** Signs the alphabet lacks, or draws too small for a hand, in its own units. */
const EXTRA: Record<string, { paths: Path[]; advance: number }> = {
  '.': { paths: [dot(4, 21)], advance: 9 },
  ':': { paths: [dot(4, 11), dot(4, 21)], advance: 9 },
  '°': { paths: [ellipse(6, 5, 3.4, 3.4)], advance: 13 },
  '×': { paths: [line(4, 10, 15, 21), line(15, 10, 4, 21)], advance: 20 },
  '→': {
    paths: [
      line(2, 15, 22, 15),
      [
        { x: 15, y: 9 },
        { x: 22, y: 15 },
        { x: 15, y: 21 },
      ],
    ],
    advance: 26,
  },
};

/** The pen's paths for a line of text. @param heightPt of a capital letter @param y of the baseline */
export function textPaths(text: string, x: number, y: number, heightPt: number): Path[] {
  const scale = heightPt / CAP_HEIGHT;
  const paths: Path[] = [];
  let at = x;
  for (const letter of text) {
    const { paths: own, advance } = glyph(letter);
    for (const path of own) {
      paths.push(path.map((point) => ({ x: at + point.x * scale, y: y + (point.y - BASELINE) * scale })));
    }
    at += advance * scale;
  }
  return paths;
}

/** How far a line of text reaches to the right. */
export function textWidth(text: string, heightPt: number): number {
  return ([...text].reduce((sum, letter) => sum + glyph(letter).advance, 0) * heightPt) / CAP_HEIGHT;
}

function glyph(letter: string): { paths: Path[]; advance: number } {
  if (letter === ' ') return { paths: [], advance: SPACE_ADVANCE };
  const extra = EXTRA[letter];
  if (extra) return extra;
  const found = chars[letter.charCodeAt(0) - FIRST_CODE];
  if (!found) throw new Error(`The simulated pen cannot write “${letter}”.`);
  return { paths: parsePath(found.d), advance: found.o * 2 };
}

/** The data knows only moves and straight lines. */
function parsePath(d: string): Path[] {
  return d
    .split('M')
    .filter((part) => part.trim() !== '')
    .map((part) =>
      part
        .replace('L', ' ')
        .trim()
        .split(/\s+/)
        .map((pair) => {
          const [x, y] = pair.split(',').map(Number);
          return { x, y };
        }),
    );
}

export function line(x1: number, y1: number, x2: number, y2: number): Path {
  return [
    { x: x1, y: y1 },
    { x: x2, y: y2 },
  ];
}

/** A dot is a short dab. */
function dot(x: number, y: number): Path {
  return line(x - 1, y - 0.5, x + 1, y + 0.5);
}

/** An ellipse drawn from its top, anticlockwise as most right hands do, and a little past where it began. */
export function ellipse(cx: number, cy: number, rx: number, ry: number): Path {
  return Array.from({ length: 42 }, (_, i) => {
    const angle = -Math.PI / 2 - (i / 40) * 2 * Math.PI;
    return { x: cx + rx * Math.cos(angle), y: cy + ry * Math.sin(angle) };
  });
}

/** A line through the values of a function. */
export function curve(fromX: number, toX: number, yOf: (x: number) => number): Path {
  return Array.from({ length: 61 }, (_, i) => {
    const x = fromX + ((toX - fromX) * i) / 60;
    return { x, y: yOf(x) };
  });
}
