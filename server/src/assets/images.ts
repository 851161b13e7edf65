import { filesOn } from '@kite-trail/core/lesson/files';
import type { InkPoints } from '@kite-trail/core/ink/points';
import type { Piece } from '@kite-trail/core/lesson/piece';
import type { PageState } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import type { Drawable, Images } from '@kite-trail/core/paint/picture';
import { fitPage } from '@kite-trail/core/paint/surface';
import { createCanvas, loadImage } from '@napi-rs/canvas';
import { imageDimensionsFromData } from 'image-dimensions';
import type { Knex } from 'knex';
import { readAsset } from './assets';
import { keyOf, type Shelf } from './shelf';

const TALLEST_SHARE = 2;
/** How long the ink of a small picture may be in all: five times what 10,000 strokes of handwriting are. */
const MOST_INK_PT = 5_000_000;
/** Pixels that are decoded for a small picture in all: two photographs of the largest size, or a wall of small ones. */
const MOST_PIXELS = 80e6;
/** A picture's pixels are kept for painting up to this width. */
const REDUCED_PX = 1280;

/**
 * A PNG of a page, everything on it; of a very tall one it shows no more than twice its width. Of a page with more ink and
 * pictures than anybody makes, it shows what came first.
 */
export async function pngOf(db: Knex, whole: PageState, shelf: Shelf, widthPx: number): Promise<Uint8Array> {
  const state = { ...whole, pieces: firstOf(whole.pieces) };
  const { page } = state;
  const heightPx = Math.max(1, Math.min(widthPx * TALLEST_SHARE, Math.round((widthPx * page.heightPt) / page.widthPt)));
  const canvas = createCanvas(widthPx, heightPx);
  paintPage(canvas.getContext('2d'), state, fitPage(page, { widthPx, heightPx }), await imagesOf(db, state, shelf));
  return canvas.encode('png');
}

function firstOf(pieces: readonly Piece[]): Piece[] {
  let inkPt = 0;
  return pieces.filter((piece) => {
    if (piece.kind === 'stroke') inkPt += lengthPt(piece.points);
    return inkPt <= MOST_INK_PT;
  });
}

function lengthPt({ xPt, yPt, count }: InkPoints): number {
  let length = 0;
  for (let i = 1; i < count; i++) length += Math.hypot(xPt[i] - xPt[i - 1], yPt[i] - yPt[i - 1]);
  return length;
}

/**
 * Decodes what lies on a page, so that it can be painted here: one after the other, for each takes much memory until it is
 * reduced. A PDF page nobody has drawn yet is left out.
 */
async function imagesOf(db: Knex, state: PageState, shelf: Shelf): Promise<Images> {
  const found = new Map<string, Drawable>();
  let pixels = 0;
  for (const file of shelf.present(filesOn(state))) {
    const picture = shelf.pictureOf(file);
    if (!picture) continue;
    const bytes = await readAsset(db, picture);
    const size = imageDimensionsFromData(bytes);
    pixels += size ? size.width * size.height : 0;
    if (pixels > MOST_PIXELS) break;
    // What is no picture, or a damaged one, is left out: nobody sees it on the page, either.
    const drawable = await decodedPicture(bytes, REDUCED_PX);
    if (drawable) found.set(keyOf(file.asset, file.pageIndex), drawable);
  }
  return { find: (asset, pageIndex) => found.get(keyOf(asset, pageIndex)) ?? null };
}

/** A picture, decoded, no wider than it is needed; `null` where it is none, or damaged. */
export async function decodedPicture(bytes: Buffer, widestPx: number): Promise<Drawable | null> {
  if (!imageDimensionsFromData(bytes)) return null;
  const image = await loadImage(bytes).catch(() => null);
  if (!image) return null;
  const scale = Math.min(1, widestPx / image.width);
  const [widthPx, heightPx] = [image.width, image.height].map((side) => Math.max(1, Math.round(side * scale)));
  const canvas = createCanvas(widthPx, heightPx);
  canvas.getContext('2d').drawImage(image, 0, 0, widthPx, heightPx);
  return { image: canvas, widthPx, heightPx };
}
