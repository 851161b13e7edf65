import type { ClassAbout, Placing, SchoolClass } from '@kite-trail/core/contract/class';
import type { ClassId, LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import type { ClassLessonRow, ClassRow, LessonRow } from '../database/rows';
import { lessonsFor } from '../lessons/lessons';
import { notFound } from '../http/problem';
import { forgetStudents } from '../students/forgetting';

const classesOf = (db: Knex, teacher: TeacherId) =>
  db<ClassRow>('classes').where({ teacher_id: teacher }).orderBy('position').orderBy('id');

/** A teacher's classes as they stand, each with those of its lessons that are not in the bin. */
export async function listClasses(db: Knex, teacher: TeacherId): Promise<SchoolClass[]> {
  const rows = await classesOf(db, teacher);
  const placed = await db<ClassLessonRow>('class_lessons')
    .join('classes', 'classes.id', 'class_lessons.class_id')
    .join('lessons', 'lessons.id', 'class_lessons.lesson_id')
    .where('classes.teacher_id', teacher)
    .whereNull('lessons.binned_at')
    .orderBy('class_lessons.position')
    .select<ClassLessonRow[]>('class_lessons.*');
  const lessons = new Map<ClassId, LessonId[]>(rows.map(({ id }) => [id, []]));
  for (const { class_id, lesson_id } of placed) lessons.get(class_id)!.push(lesson_id);
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    color: row.color,
    // A lesson that has left the class, or lies in the bin, does not stand for it meanwhile.
    cover: lessons.get(row.id)!.find((id) => id === row.cover_lesson_id) ?? null,
    isArchived: row.archived_at !== null,
    lessons: lessons.get(row.id)!,
    pageToken: row.page_token,
  }));
}

/** Makes a class, after all others. */
export async function makeClass(
  db: Knex,
  teacher: TeacherId,
  { name, color }: Pick<ClassAbout, 'name' | 'color'>,
): Promise<ClassId> {
  const last = (await classesOf(db, teacher)).at(-1);
  const row: ClassRow = {
    id: nanoid() as ClassId,
    teacher_id: teacher,
    name,
    color,
    cover_lesson_id: null,
    position: last ? last.position + 1 : 0,
    archived_at: null,
    made_at: new Date().toISOString(),
    page_token: null,
  };
  await db('classes').insert(row);
  return row.id;
}

/** @throws RequestProblem where the cover is none of the class's lessons */
export async function changeClass(db: Knex, one: ClassRow, { name, color, cover, isArchived }: ClassAbout) {
  if (cover !== null && !(await lessonsIn(db, one.id)).includes(cover)) throw notFound('lesson');
  const archived_at = isArchived ? (one.archived_at ?? new Date().toISOString()) : null;
  await db('classes').where({ id: one.id }).update({ name, color, cover_lesson_id: cover, archived_at });
}

/** The class is no more, and with it its students and tasks; its lessons stay. */
export async function dropClass(db: Knex, { id }: ClassRow): Promise<void> {
  await forgetStudents(db, id);
  await db('classes').where({ id }).delete();
}

/** Puts a teacher's classes in order. Those that are not named follow as they stood. */
export async function orderClasses(db: Knex, teacher: TeacherId, order: readonly ClassId[]): Promise<void> {
  const own = (await classesOf(db, teacher)).map(({ id }) => id);
  const named = [...new Set(order)].filter((id) => own.includes(id));
  const all = [...named, ...own.filter((id) => !named.includes(id))];
  for (const [position, id] of all.entries()) await db('classes').where({ id }).update({ position });
}

/**
 * Puts lessons into a class, before one of its own or after all of them, and takes them out of the class they came from.
 * @throws RequestProblem where a lesson or a class is not the teacher's
 */
export async function placeLessons(
  db: Knex,
  teacher: TeacherId,
  { lessons, from, to, before }: Placing,
): Promise<void> {
  const placed = await lessonsFor(db, teacher, lessons);
  // Whoever moves between the same classes the other way waits for the same one first.
  const classes = [...new Set([from, to])].filter((id) => id !== null).sort();
  for (const id of classes) await ownClass(db, teacher, id);
  for (const id of classes) await removeFrom(db, id, placed);
  if (to !== null) await putIn(db, to, placed, before);
}

async function removeFrom(db: Knex, class_id: ClassId, lessons: readonly LessonId[]): Promise<void> {
  for (let n = 0; n < lessons.length; n += ROWS_AT_ONCE) {
    const some = lessons.slice(n, n + ROWS_AT_ONCE);
    await db('class_lessons').where({ class_id }).whereIn('lesson_id', some).delete();
  }
}

/** Makes room before a lesson, or after all, and puts others there. Positions need not follow one another closely. */
async function putIn(
  db: Knex,
  class_id: ClassId,
  lessons: readonly LessonId[],
  before: LessonId | null,
): Promise<void> {
  const own = () => db<ClassLessonRow>('class_lessons').where({ class_id });
  const next = before === null ? undefined : await own().where({ lesson_id: before }).first();
  const last = await own().orderBy('position', 'desc').first();
  const first = next?.position ?? (last ? last.position + 1 : 0);
  await own().where('position', '>=', first).increment('position', lessons.length);
  const rows = lessons.map((lesson_id, n): ClassLessonRow => ({ class_id, lesson_id, position: first + n }));
  await db.batchInsert('class_lessons', rows, ROWS_AT_ONCE);
}

/** Adds a new lesson to classes. @throws RequestProblem where one is not the teacher's */
export async function addToClasses(
  db: Knex,
  { id, teacher_id }: LessonRow,
  classes: readonly ClassId[],
): Promise<void> {
  for (const to of new Set(classes)) {
    await placeLessons(db, teacher_id, { lessons: [id], from: null, to, before: null });
  }
}

/** A teacher's classes in which a lesson stands. */
export const classesWith = (db: Knex, teacher: TeacherId, lesson: LessonId): Promise<ClassId[]> =>
  db('class_lessons')
    .join('classes', 'classes.id', 'class_lessons.class_id')
    .where({ lesson_id: lesson, teacher_id: teacher })
    .pluck('class_id');

const lessonsIn = (db: Knex, id: ClassId): Promise<LessonId[]> =>
  db<ClassLessonRow>('class_lessons').where({ class_id: id }).orderBy('position').pluck('lesson_id');

/** SQLite takes so many values in one statement. */
const ROWS_AT_ONCE = 200;

async function ownClass(db: Knex, teacher: TeacherId, id: ClassId): Promise<ClassRow> {
  const found = await db<ClassRow>('classes').where({ id, teacher_id: teacher }).forUpdate().first();
  if (!found) throw notFound('class');
  return found;
}
