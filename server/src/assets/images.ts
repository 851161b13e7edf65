import type { AssetId } from '@kite-trail/core/lesson/ids';
import { filesOn } from '@kite-trail/core/lesson/files';
import type { PageState } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import type { Drawable, Images } from '@kite-trail/core/paint/picture';
import { fitPage } from '@kite-trail/core/paint/surface';
import { createCanvas, loadImage } from '@napi-rs/canvas';
import type { Knex } from 'knex';
import { readAsset } from './assets';
import { keyOf, type Shelf } from './shelf';

const TALLEST_SHARE = 2;

/** A PNG of a page, everything on it; of a very tall one it shows no more than twice its width. */
export async function pngOf(db: Knex, state: PageState, shelf: Shelf, widthPx: number): Promise<Buffer> {
  const { page } = state;
  const heightPx = Math.max(1, Math.min(widthPx * TALLEST_SHARE, Math.round((widthPx * page.heightPt) / page.widthPt)));
  const canvas = createCanvas(widthPx, heightPx);
  paintPage(canvas.getContext('2d'), state, fitPage(page, { widthPx, heightPx }), await imagesOf(db, state, shelf));
  return canvas.encode('png');
}

/** Decodes all that lies on a page, so that it can be painted here. A PDF page nobody has drawn yet is left out. */
export async function imagesOf(db: Knex, state: PageState, shelf: Shelf): Promise<Images> {
  const found = new Map<string, Drawable>();
  for (const file of shelf.present(filesOn(state))) {
    const picture = shelf.pictureOf(file);
    if (picture) found.set(keyOf(file.asset, file.pageIndex), await decoded(db, picture));
  }
  return { find: (asset, pageIndex) => found.get(keyOf(asset, pageIndex)) ?? null };
}

async function decoded(db: Knex, asset: AssetId): Promise<Drawable> {
  const image = await loadImage(await readAsset(db, asset));
  return { image, widthPx: image.width, heightPx: image.height };
}
