import type { PixelRect } from '../paint/painter';
import type { Surface } from '../paint/surface';
import type { PixelSize } from './settings';

/** A surface on which letters can be set. */
export interface LetteredSurface extends Surface {
  font: string;
  textAlign: unknown;
  textBaseline: unknown;
  measureText(text: string): { width: number };
  fillText(text: string, x: number, y: number): void;
}

/** Under these names whoever draws letters has the fonts that ship, by the letters they have. */
export const LETTER_FAMILIES = {
  latin: 'Film Latin',
  latinExt: 'Film Latin Extended',
  greek: 'Film Greek',
  cyrillic: 'Film Cyrillic',
  hebrew: 'Film Hebrew',
  arabic: 'Film Arabic',
} as const;
const FAMILIES = Object.values(LETTER_FAMILIES)
  .map((name) => `"${name}"`)
  .join(', ');

const CAPTION_GROUND = '#101728';
const LETTERS = '#ffffff';

/** A letter that none of the fonts has is drawn with the device's own. */
export const letterFont = (px: number): string => `700 ${px}px ${FAMILIES}, sans-serif`;

const words = new Intl.Segmenter(undefined, { granularity: 'word' });

/** The lines in which a text fits into a width, as they are with the surface's font; also of scripts without spaces. */
function linesOf(surface: LetteredSurface, text: string, widthPx: number): string[] {
  return text.split('\n').flatMap((part) => {
    const lines: string[] = [];
    let line = '';
    for (const { segment } of words.segment(part)) {
      if (line.trim() !== '' && surface.measureText((line + segment).trim()).width > widthPx) {
        lines.push(line.trim());
        line = segment;
      } else line += segment;
    }
    return [...lines, line.trim()];
  });
}

const LINE_HEIGHT = 1.25;
const LEAST_PX = 8;

/** Draws a text in the middle of a box, as large as it may be and smaller where it does not fit. */
function drawWithin(surface: LetteredSurface, text: string, box: PixelRect, largestPx: number): void {
  let [px, lines] = [largestPx, [] as string[]];
  for (; px > LEAST_PX; px *= 0.9) {
    surface.font = letterFont(px);
    lines = linesOf(surface, text, box.width);
    const widest = Math.max(...lines.map((line) => surface.measureText(line).width));
    if (lines.length * px * LINE_HEIGHT <= box.height && widest <= box.width) break;
  }
  surface.fillStyle = LETTERS;
  surface.textAlign = 'center';
  surface.textBaseline = 'middle';
  const first = box.y + box.height / 2 - ((lines.length - 1) / 2) * px * LINE_HEIGHT;
  lines.forEach((line, n) => surface.fillText(line, box.x + box.width / 2, first + n * px * LINE_HEIGHT));
}

/** Draws a caption into its band; an empty one leaves the band bare. */
export function drawCaption(surface: LetteredSurface, text: string, band: PixelRect): void {
  surface.setTransform(1, 0, 0, 1, 0, 0);
  surface.fillStyle = CAPTION_GROUND;
  surface.fillRect(band.x, band.y, band.width, band.height);
  const margin = Math.round(band.height * 0.08);
  const within = { ...band, x: band.x + 2 * margin, width: band.width - 4 * margin };
  if (text !== '') drawWithin(surface, text, within, band.height / 2.6);
}

/** Draws a lesson's name in the middle of a picture. */
export function drawTitle(surface: LetteredSurface, title: string, size: PixelSize): void {
  const { widthPx: width, heightPx: height } = size;
  const box = { x: width * 0.1, y: height * 0.2, width: width * 0.8, height: height * 0.6 };
  drawWithin(surface, title, box, Math.min(width, height) / 9);
}
