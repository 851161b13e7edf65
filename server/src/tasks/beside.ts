import { BLANK_PAPER, blankPage, PAGE_SIZES } from '@kite-trail/core/lesson/page';
import { titleOf } from '@kite-trail/core/contract/lesson';
import type { LessonId, PageId, PieceId, ReplyId } from '@kite-trail/core/lesson/ids';
import { NEW, WHOLE, type Picture } from '@kite-trail/core/lesson/piece';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import { named, storeAsset } from '../assets/assets';
import { addFile } from '../assets/lesson-files';
import { addToClasses } from '../classes/classes';
import type { ReplyRow, TaskRow, TeacherRow } from '../database/rows';
import { notFound } from '../http/problem';
import { paintPage } from '../lessons/picture';
import { makeLesson, writtenPage } from '../lessons/lessons';
import { aboutOf } from './about';
import { lyingOf } from './hand-ins';

const WIDTH_PX = 1280;
const GAP_PT = 16;

/** A page of somebody's work as a PNG, with its proportions. */
interface PaintedReply {
  png: Uint8Array;
  widthPx: number;
  heightPx: number;
}

/**
 * Paints a page of each of some replies, in their order: of what was handed in, or, where it is asked now, of what is written.
 * @throws RequestProblem where one is not of the task, or is nobody's to see yet
 */
export async function paintBeside(
  db: Knex,
  { task: id, replies, page }: { task: TaskRow['id']; replies: readonly ReplyId[]; page: PageId | null },
): Promise<PaintedReply[]> {
  const task = (await db<TaskRow>('tasks').where({ id }).first())!;
  const painted: PaintedReply[] = [];
  for (const one of replies) {
    const reply = await db<ReplyRow>('replies').where({ id: one, task_id: id }).first();
    const lies = reply && (await lyingOf(db, reply.id));
    const lesson = lies?.lesson_id ?? (reply && aboutOf(task).isLive ? reply.lesson_id : undefined);
    if (!lesson) throw notFound('work');
    const asked = { lesson, widthPx: WIDTH_PX };
    // Where somebody has taken the page away, the first stands for it.
    const png = (await paintPage(db, { ...asked, page })) ?? (await paintPage(db, { ...asked, page: null }))!;
    // The width and height of a PNG lie at its 16th byte (W3C PNG, section 11.2.1).
    const head = new DataView(png.buffer, png.byteOffset, 24);
    painted.push({ png, widthPx: head.getUint32(16), heightPx: head.getUint32(20) });
  }
  return painted;
}

/** A new lesson of the teacher's, on whose page pictures of replies lie beside one another, without names: to be written on, spoken over, shown. */
export async function layBeside(
  db: Knex,
  teacher: TeacherRow,
  task: TaskRow,
  painted: readonly PaintedReply[],
): Promise<LessonId> {
  const files = await Promise.all(painted.map(({ png }) => storeAsset(db, 'image/png', named(png))));
  const page = blankPage(nanoid() as PageId, PAGE_SIZES[0], BLANK_PAPER);
  const columns = Math.ceil(Math.sqrt(painted.length));
  const rows = Math.ceil(painted.length / columns);
  const widthPt = (page.widthPt - GAP_PT * (columns + 1)) / columns;
  const heightPt = (page.heightPt - GAP_PT * (rows + 1)) / rows;
  const pieces = painted.map(({ widthPx, heightPx }, n): Picture => {
    const scale = Math.min(widthPt / widthPx, heightPt / heightPx);
    const [column, row] = [n % columns, Math.floor(n / columns)];
    const frame = {
      xPt: GAP_PT + column * (widthPt + GAP_PT) + (widthPt - widthPx * scale) / 2,
      yPt: GAP_PT + row * (heightPt + GAP_PT) + (heightPt - heightPx * scale) / 2,
      widthPt: widthPx * scale,
      heightPt: heightPx * scale,
      turnRad: 0,
      mirrored: false,
    };
    return {
      ...NEW,
      kind: 'picture',
      id: nanoid() as PieceId,
      z: n + 1,
      asset: files[n],
      frame,
      crop: WHOLE,
      cutOut: new Float32Array(),
    };
  });
  const title = titleOf(`Answers: ${aboutOf(task).title}`);
  const lesson = await makeLesson(db, teacher.id, title, [writtenPage({ page, pieces })]);
  for (const file of files) await addFile(db, lesson.id, 'answer.png', file);
  await addToClasses(db, lesson, [task.class_id]);
  return lesson.id;
}
