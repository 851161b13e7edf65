import type { AssetId } from '@kite-trail/core/lesson/ids';
import type { PageState } from '@kite-trail/core/lesson/scene';
import type { Drawable, Images } from '@kite-trail/core/paint/picture';
import { loadImage } from '@napi-rs/canvas';
import type { Knex } from 'knex';
import type { SheetPictureRow } from '../database/rows';
import { readAsset } from './assets';

/** Decodes all that lies on a page, so that it can be painted here. A PDF page nobody has drawn yet is left out. */
export async function imagesOf(db: Knex, { page, pieces }: PageState): Promise<Images> {
  const found = new Map<string, Drawable>();
  const pictures = pieces.flatMap((piece) => (piece.kind === 'picture' ? [piece.asset] : []));
  if (page.sheet?.pageIndex === null) pictures.push(page.sheet.asset);
  for (const asset of new Set(pictures)) found.set(keyOf(asset, null), await decoded(db, asset));
  if (page.sheet && page.sheet.pageIndex !== null) {
    const { asset, pageIndex } = page.sheet;
    const row = await db<SheetPictureRow>('sheet_pictures').where({ asset_id: asset, page_index: pageIndex }).first();
    if (row) found.set(keyOf(asset, pageIndex), await decoded(db, row.picture_asset));
  }
  return { find: (asset, pageIndex) => found.get(keyOf(asset, pageIndex)) ?? null };
}

const keyOf = (asset: AssetId, pageIndex: number | null) => `${asset} ${pageIndex}`;

async function decoded(db: Knex, asset: AssetId): Promise<Drawable> {
  const image = await loadImage(await readAsset(db, asset));
  return { image, widthPx: image.width, heightPx: image.height };
}
