import { FOUND_KINDS, type Found, type FoundKind, type FoundPlace } from '@kite-trail/core/contract/search';
import type { LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import { excerptOf, wordsOf } from '@kite-trail/core/search/fold';
import type { Knex } from 'knex';
import type { LessonRow, LessonTextRow, LessonWordsRow } from '../database/rows';
import { inTransaction, isPostgres } from '../database/transaction';
import { listedFor } from '../together/worked-on';
import type { Work } from '../work/work';
import type { LessonTexts } from './reading';

/** So many lessons are read through while whoever looks for something waits; the others when they ask again. */
const READ_AT_ONCE = 20;
/** So many lessons are shown, and so many places of each. */
const MOST_LESSONS = 30;
const MOST_PLACES = 5;

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
  listedFor(db<LessonRow>('lessons'), teacher)
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
    const linesOf = (isHead: boolean) =>
      rows.flatMap(({ kind, folded }) => (IN_BODY.includes(kind) === isHead ? [] : [folded])).join('\n');
    const words: LessonWordsRow = { lesson_id: lesson, head: linesOf(true), body: linesOf(false) };
    await db('lesson_words').insert(words).onConflict('lesson_id').merge();
  }
}

/** SQLite takes so many values in one statement. */
const ROWS_AT_ONCE = 100;

/** What is said and written in a lesson. */
const IN_BODY: readonly FoundKind[] = ['caption', 'text'];

/**
 * The lessons in which every word stands somewhere, those where it matters most first. Lessons are found by one row each; texts are looked
 * at of those alone that are shown.
 */
async function lessonsWith(db: Knex, teacher: TeacherId, words: readonly string[]): Promise<Found['lessons']> {
  const hasWord = finder(db);
  const inHead = words.map(() => hasWord('head')).join(' AND ');
  const found: LessonId[] = await listedFor(
    db<LessonWordsRow>('lesson_words').join('lessons', 'lessons.id', 'lesson_words.lesson_id'),
    teacher,
  )
    .whereNull('binned_at')
    .where((all) => words.forEach((word) => all.whereRaw(`(${hasWord('head')} OR ${hasWord('body')})`, [word, word])))
    .orderByRaw(`CASE WHEN ${inHead} THEN 0 ELSE 1 END`, words)
    .orderBy([{ column: 'changed_at', order: 'desc' }, 'lesson_id'])
    .limit(MOST_LESSONS)
    .pluck('lesson_id');
  const rows = await db
    .with('ranked', (texts) =>
      texts
        .from('lesson_texts')
        .whereIn('lesson_id', found)
        .select('lesson_texts.*', db.raw(`${rankIn(db, words)} AS rank`, words)),
    )
    .with('placed', (texts) =>
      texts
        .from('ranked')
        .where('rank', '>', 0)
        .select('ranked.*', db.raw('row_number() OVER (PARTITION BY lesson_id ORDER BY rank DESC, n) AS place')),
    )
    .from('placed')
    .where('place', '<=', MOST_PLACES)
    .orderBy(['lesson_id', 'place'])
    .select<(LessonTextRow & { rank: number })[]>();
  const byLesson = new Map(found.map((id): [LessonId, typeof rows] => [id, []]));
  for (const row of rows) byLesson.get(row.lesson_id)!.push(row);
  return [...byLesson]
    .filter(([, texts]) => texts.length > 0)
    .sort(([, a], [, b]) => b[0].rank - a[0].rank)
    .map(([id, texts]) => ({ id, places: texts.map((row) => placeOf(row, words)) }));
}

/** How much a text matters: the more words stand in it, the more; then by what it is. Without any it is 0, or less. */
function rankIn(db: Knex, words: readonly string[]): string {
  const hasWord = finder(db);
  const kinds = FOUND_KINDS.map((kind, n) => `WHEN '${kind}' THEN ${n}`).join(' ');
  const counted = words.map(() => `CASE WHEN ${hasWord('folded')} THEN ${FOUND_KINDS.length} ELSE 0 END`);
  return `${counted.join(' + ')} - CASE kind ${kinds} END`;
}

/** In both databases what is looked for is found as it is written, ten times as fast as by a pattern; they only call it otherwise. */
const finder = (db: Knex) => {
  const found = isPostgres(db) ? 'strpos' : 'instr';
  return (column: 'head' | 'body' | 'folded') => `${found}(${column}, ?) > 0`;
};

const placeOf = ({ kind, text, at_samples, page }: LessonTextRow, words: readonly string[]): FoundPlace => ({
  kind,
  text: excerptOf(text, words),
  atSamples: at_samples === null ? null : Number(at_samples),
  page,
});
