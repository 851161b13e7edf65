import { flattened } from '../drawing/path';
import { parsedPath } from '../typeset/svg-path';
import { cloudOf, type Cloud, type Polyline } from './point-cloud';

/** The hands that letters are known by: files of the package `hersheytext` (SIL Open Font License, and Hershey's). */
export const HANDS = [
  'EMSAllure',
  'EMSElfin',
  'EMSFelix',
  'EMSNixish',
  'EMSOsmotron',
  'EMSReadability',
  'EMSTech',
  'HersheySans1',
  'HersheyScript1',
] as const;
export type Hand = (typeof HANDS)[number];

/** One way to write a letter, digit or sign. */
export interface Template {
  letter: string;
  cloud: Cloud;
}

/** What can be read. Dots and commas are told by their size. */
export const LETTERS = [...'0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz+-=?!()/'];

/** The strokes of each letter in a font of single strokes (SVG 1.1, chapter 20), y counted downwards. */
export function lettersOfFont(svgFont: string): Map<string, Polyline[]> {
  const letters = new Map<string, Polyline[]>();
  for (const [, unicode, path] of svgFont.matchAll(/<glyph unicode="([^"]+)"[^>]* d="([^"]+)"/g)) {
    if (!LETTERS.includes(unicode)) continue;
    const strokes = flattened(parsedPath(path)).map((line) => line.map((value, i) => (i % 2 === 1 ? -value : value)));
    letters.set(unicode, strokes);
  }
  return letters;
}

export const templatesOfFont = (svgFont: string): Template[] =>
  [...lettersOfFont(svgFont)].map(([letter, strokes]) => ({ letter, cloud: cloudOf(strokes) }));

/** Plain ways to write that fonts leave out, as taught at school, in a box 10 high. */
const PLAIN: [letter: string, ...strokes: Polyline[]][] = [
  ['1', [0, 0, 0, 10]],
  ['1', [0, 3, 3, 0, 3, 10]],
  ['I', [0, 0, 0, 10]],
  ['I', [0, 0, 4, 0], [2, 0, 2, 10], [0, 10, 4, 10]],
  ['l', [0, 0, 0, 10]],
  ['4', [2, 0, 0, 6, 6, 6], [4, 3, 4, 10]],
  ['7', [0, 0, 5, 0, 2, 10], [1, 5, 5, 5]],
  ['t', [2, 0, 2, 10], [0, 3, 4, 3]],
  ['i', [0, 4, 0, 10], [0, 0, 0, 0.6]],
  ['j', [2, 4, 2, 11, 1, 13, 0, 12], [2, 0, 2, 0.6]],
  ['J', [0, 0, 5, 0], [3, 0, 3, 8, 2, 10, 0, 8]],
  ['Y', [0, 0, 3, 5, 6, 0], [3, 5, 3, 10]],
  ['y', [0, 0, 3, 5], [6, 0, 1, 10]],
  ['x', [0, 0, 6, 6], [6, 0, 0, 6]],
  ['E', [5, 0, 0, 0, 0, 10, 5, 10], [0, 5, 4, 5]],
  ['F', [5, 0, 0, 0, 0, 10], [0, 5, 4, 5]],
  ['H', [0, 0, 0, 10], [6, 0, 6, 10], [0, 5, 6, 5]],
  ['N', [0, 10, 0, 0, 6, 10, 6, 0]],
  ['M', [0, 10, 1, 0, 4, 7, 7, 0, 8, 10]],
  ['W', [0, 0, 2, 10, 4, 3, 6, 10, 8, 0]],
  ['A', [0, 10, 4, 0, 8, 10], [1.6, 6, 6.4, 6]],
  ['=', [0, 0, 6, 0], [0, 3, 6, 3]],
  ['+', [3, 0, 3, 6], [0, 3, 6, 3]],
];

export const plainTemplates = (): Template[] =>
  PLAIN.map(([letter, ...strokes]) => ({ letter, cloud: cloudOf(strokes) }));
