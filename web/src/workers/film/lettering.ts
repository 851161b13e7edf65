import latinExt from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-700-normal.woff2?url';
import latin from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff2?url';
import cyrillic from '@fontsource/literata/files/literata-cyrillic-700-normal.woff2?url';
import greek from '@fontsource/literata/files/literata-greek-700-normal.woff2?url';
import arabic from '@fontsource/noto-sans-arabic/files/noto-sans-arabic-arabic-700-normal.woff2?url';
import hebrew from '@fontsource/noto-sans-hebrew/files/noto-sans-hebrew-hebrew-700-normal.woff2?url';
import type { PixelSize } from '@kite-trail/core/film/settings';
import type { PixelRect } from '@kite-trail/core/paint/painter';

const FAMILY = 'Film';
const FILES: readonly [url: string, unicodeRange: string][] = [
  [latin, 'U+0000-00FF, U+2000-206F, U+20AC, U+2122, U+2190-2193, U+2212'],
  [latinExt, 'U+0100-02FF, U+1E00-1EFF'],
  [greek, 'U+0370-03FF'],
  [cyrillic, 'U+0400-04FF'],
  [hebrew, 'U+0590-05FF, U+FB1D-FB4F'],
  [arabic, 'U+0600-06FF, U+0750-077F, U+FB50-FDFF, U+FE70-FEFF'],
];
const CAPTION_GROUND = '#101728';
const LETTERS = '#ffffff';

/** In a worker; the DOM types know only a page's. */
declare const self: { fonts: FontFaceSet };

/** Loads the fonts that texts need, from those that ship. A letter that none of them has is drawn with the device's own. */
export async function loadLetters(texts: readonly string[]): Promise<void> {
  for (const [url, unicodeRange] of FILES) {
    self.fonts.add(new FontFace(FAMILY, `url(${url})`, { weight: '700', unicodeRange }));
  }
  await self.fonts.load(fontOf(40), texts.join(' ')).catch(() => {});
}

const fontOf = (px: number): string => `700 ${px}px ${FAMILY}, sans-serif`;

const words = new Intl.Segmenter(undefined, { granularity: 'word' });

/** The lines in which a text fits into a width, as they are with the surface's font; also of scripts without spaces. */
function linesOf(surface: OffscreenCanvasRenderingContext2D, text: string, widthPx: number): string[] {
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
function drawWithin(surface: OffscreenCanvasRenderingContext2D, text: string, box: PixelRect, largestPx: number): void {
  let [px, lines] = [largestPx, [] as string[]];
  for (; px > LEAST_PX; px *= 0.9) {
    surface.font = fontOf(px);
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
export function drawCaption(surface: OffscreenCanvasRenderingContext2D, text: string, band: PixelRect): void {
  surface.setTransform(1, 0, 0, 1, 0, 0);
  surface.fillStyle = CAPTION_GROUND;
  surface.fillRect(band.x, band.y, band.width, band.height);
  const margin = Math.round(band.height * 0.08);
  const within = { ...band, x: band.x + 2 * margin, width: band.width - 4 * margin };
  if (text !== '') drawWithin(surface, text, within, band.height / 2.6);
}

/** Draws a lesson's name in the middle of a picture. */
export function drawTitle(surface: OffscreenCanvasRenderingContext2D, title: string, size: PixelSize): void {
  const { widthPx: width, heightPx: height } = size;
  const box = { x: width * 0.1, y: height * 0.2, width: width * 0.8, height: height * 0.6 };
  drawWithin(surface, title, box, Math.min(width, height) / 9);
}
