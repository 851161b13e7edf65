import { NOT_GATHERED, type GatheredImages } from '@kite-trail/core/film/camera';
import { filesOn } from '@kite-trail/core/lesson/files';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import type { PageState } from '@kite-trail/core/lesson/scene';
import type { Drawable } from '@kite-trail/core/paint/picture';
import type { Knex } from 'knex';
import { readAsset } from '../assets/assets';
import { decodedPicture } from '../assets/images';
import { keyOf, type Shelf } from '../assets/shelf';
import { conflict } from '../http/problem';

/** Pictures are kept up to this width: as wide as the largest film. */
const WIDEST_PX = 3840;

/** The pictures of a lesson, decoded when a film first shows them. */
export class FilmImages implements GatheredImages {
  private readonly found = new Map<string, Drawable>();

  constructor(
    private readonly db: Knex,
    private readonly shelf: Shelf,
  ) {}

  find(asset: AssetId, pageIndex: number | null): Drawable | null {
    return this.found.get(keyOf(asset, pageIndex)) ?? null;
  }

  /** @throws RequestProblem where a picture is not here, is none, or nobody has drawn a PDF's page yet */
  async gather(state: PageState): Promise<void> {
    for (const { asset, pageIndex } of filesOn(state)) {
      const key = keyOf(asset, pageIndex);
      if (this.found.has(key)) continue;
      const picture = this.shelf.pictureOf({ asset, pageIndex });
      const drawable = picture && (await decodedPicture(await readAsset(this.db, picture), WIDEST_PX));
      if (!drawable) throw conflict('picture-missing', NOT_GATHERED);
      this.found.set(key, drawable);
    }
  }
}
