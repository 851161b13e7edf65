import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import { timelineOf } from '@kite-trail/core/formats/payload';
import { applyChange } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import { fitPage } from '@kite-trail/core/paint/surface';
import { createCanvas } from '@napi-rs/canvas';
import type { Knex } from 'knex';
import type { LessonRow } from '../database/rows';
import { playOut } from './trails';

const WIDTH_PX = 640;

/** A PNG of the lesson's first page as it is in the end, everything on it. */
export async function pictureOf(db: Knex, lesson: LessonRow): Promise<Buffer> {
  const payload = await playOut(db, lesson);
  const scene = decodeMarks(lesson.between_marks).reduce(applyChange, timelineOf(payload).end);
  const [first] = scene.pages;
  const heightPx = Math.round((WIDTH_PX * first.page.heightPt) / first.page.widthPt);
  const canvas = createCanvas(WIDTH_PX, heightPx);
  paintPage(canvas.getContext('2d'), first, fitPage(first.page, { widthPx: WIDTH_PX, heightPx }));
  return canvas.encode('png');
}
