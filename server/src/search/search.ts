import { FOUND_KINDS, type Found, type FoundPlace } from '@kite-trail/core/contract/search';
import type { LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import { excerptOf, wordsOf } from '@kite-trail/core/search/fold';
import type { Knex } from 'knex';
import type { LessonRow, LessonTextRow } from '../database/rows';
import { inTransaction } from '../database/transaction';
import type { Work } from '../work/work';
import type { LessonTexts } from './reading';

/** So many lessons are read through while whoever looks for something waits; the others when they ask again. */
const READ_AT_ONCE = 20;
/** So many lessons are shown, and so many places of each. */
const MOST_LESSONS = 50;
const MOST_PLACES = 5;
/** So many texts in which a word stands are looked at. */
const MOST_TEXTS = 5000;

/**
 * Looks for words in a teacher's lessons. Lessons that have been changed since they were last read are read first, some at a time:
 * what can be found in them is kept, and always that of one state of theirs.
 */
export async function search(db: Knex, work: Work, teacher: TeacherId, asked: string): Promise<Found> {
  const words = wordsOf(asked);
  if (words.length === 0) return { lessons: [], unread: 0 };
  const unread = await unreadLessons(db, teacher);
  const now = unread.slice(0, READ_AT_ONCE);
  if (now.length > 0) {
    const read = await work.do('readTexts', teacher, { lessons: now });
    await inTransaction(db, (trx) => keepTexts(trx, read));
  }
  return { lessons: await lessonsWith(db, teacher, words), unread: unread.length - now.length };
}

const unreadLessons = (db: Knex, teacher: TeacherId): Promise<LessonId[]> =>
  db<LessonRow>('lessons')
    .where({ teacher_id: teacher })
    .whereNull('binned_at')
    .where((all) => all.whereNull('read_at_change').orWhereRaw('read_at_change <> changed_at'))
    .orderBy('changed_at', 'desc')
    .pluck('id');

async function keepTexts(db: Knex, read: readonly LessonTexts[]): Promise<void> {
  for (const { lesson, changedAt, texts } of read) {
    // One that has been changed meanwhile, or has gone, is not as it was read.
    const isNow = await db('lessons')
      .where({ id: lesson, changed_at: changedAt })
      .update({ read_at_change: changedAt });
    if (isNow === 0) continue;
    await db('lesson_texts').where({ lesson_id: lesson }).delete();
    const rows = texts.map(({ kind, text, folded, atSamples, page }, n): LessonTextRow => ({
      lesson_id: lesson,
      n,
      kind,
      text,
      folded,
      at_samples: atSamples,
      page,
    }));
    if (rows.length > 0) await db.batchInsert('lesson_texts', rows, ROWS_AT_ONCE);
  }
}

/** SQLite takes so many values in one statement. */
const ROWS_AT_ONCE = 100;

/** The lessons in which every word stands somewhere, those where it matters most first. */
async function lessonsWith(db: Knex, teacher: TeacherId, words: readonly string[]): Promise<Found['lessons']> {
  const rows = await db<LessonTextRow>('lesson_texts')
    .join('lessons', 'lessons.id', 'lesson_texts.lesson_id')
    .where({ teacher_id: teacher })
    .whereNull('binned_at')
    .where((any) => words.forEach((word) => any.orWhereRaw(HAS_WORD, [`%${literal(word)}%`])))
    .orderBy([{ column: 'changed_at', order: 'desc' }, 'lesson_id', 'n'])
    .limit(MOST_TEXTS)
    .select<LessonTextRow[]>('lesson_texts.*');
  const byLesson = new Map<LessonId, LessonTextRow[]>();
  for (const row of rows) byLesson.set(row.lesson_id, [...(byLesson.get(row.lesson_id) ?? []), row]);
  return [...byLesson]
    .filter(([, texts]) => words.every((word) => texts.some(({ folded }) => folded.includes(word))))
    .map(([id, texts]) => ({ id, ranked: ranked(texts, words) }))
    .sort((a, b) => b.ranked[0].rank - a.ranked[0].rank)
    .slice(0, MOST_LESSONS)
    .map(({ id, ranked: best }) => ({ id, places: best.slice(0, MOST_PLACES).map(({ row }) => placeOf(row, words)) }));
}

const HAS_WORD = `lesson_texts.folded LIKE ? ESCAPE '!'`;
const literal = (word: string) => word.replace(/[!%_]/g, (sign) => `!${sign}`);

/** A lesson's texts: the more words in one, the better; then by where they stand; then in the order of the lesson. */
function ranked(rows: readonly LessonTextRow[], words: readonly string[]) {
  return rows
    .map((row) => {
      const has = words.filter((word) => row.folded.includes(word)).length;
      return { row, rank: has * FOUND_KINDS.length - FOUND_KINDS.indexOf(row.kind) };
    })
    .sort((a, b) => b.rank - a.rank || a.row.n - b.row.n);
}

const placeOf = ({ kind, text, at_samples, page }: LessonTextRow, words: readonly string[]): FoundPlace => ({
  kind,
  text: excerptOf(text, words).text,
  atSamples: at_samples === null ? null : Number(at_samples),
  page,
});
