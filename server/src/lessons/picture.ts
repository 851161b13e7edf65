import { paintPage } from '@kite-trail/core/paint/painter';
import { fitPage } from '@kite-trail/core/paint/surface';
import { createCanvas } from '@napi-rs/canvas';
import type { Knex } from 'knex';
import { imagesOf } from '../assets/images';
import type { LessonRow } from '../database/rows';
import { sceneNow } from './trails';

const WIDTH_PX = 640;

/** A PNG of the lesson's first page as it is in the end, everything on it. */
export async function pictureOf(db: Knex, lesson: LessonRow): Promise<Buffer> {
  const [first] = (await sceneNow(db, lesson)).pages;
  const heightPx = Math.min(WIDTH_PX * 2, Math.round((WIDTH_PX * first.page.heightPt) / first.page.widthPt));
  const canvas = createCanvas(WIDTH_PX, heightPx);
  const placement = fitPage(first.page, { widthPx: WIDTH_PX, heightPx });
  paintPage(canvas.getContext('2d'), first, placement, await imagesOf(db, first));
  return canvas.encode('png');
}
