import { readForm } from '@kite-trail/core/contract/forms';
import type { RecordingSummary } from '@kite-trail/core/contract/overview';
import type { LessonId, TakeId, TeacherId } from '@kite-trail/core/lesson/ids';
import { takesIn } from '@kite-trail/core/trail/programme';
import type { Knex } from 'knex';
import type { LinkRow, TakeRow } from '../database/rows';
import { live } from '../links/live';
import { listedFor } from '../together/worked-on';

type ListedRow = Pick<TakeRow, 'id' | 'lesson_id' | 'name' | 'length_samples' | 'started_at' | 'binned_at'> & {
  title: string;
};

/** All recordings of the lessons a teacher works on that are not in the bin, the newest first. */
export async function listRecordings(db: Knex, { teacher }: { teacher: TeacherId }): Promise<RecordingSummary[]> {
  const rows = await ofLessons(db('takes'), teacher)
    .whereNotNull('ended_at')
    .orderBy('started_at', 'desc')
    .select<ListedRow[]>(
      'takes.id',
      'takes.lesson_id',
      'name',
      'length_samples',
      'started_at',
      'takes.binned_at',
      'title',
    );
  const links = await ofLessons(live(db('links')), teacher).select<Pick<LinkRow, 'lesson_id' | 'token'>[]>(
    'links.lesson_id',
    'token',
  );
  const played = await playedTakes(db, teacher);
  return rows.map((row) => ({
    id: row.id,
    lesson: row.lesson_id,
    title: row.title,
    name: row.name ?? '',
    lengthSamples: Number(row.length_samples),
    startedAt: row.started_at,
    isPlayed: played.has(row.id),
    isBinned: row.binned_at !== null,
    links: links.filter(({ lesson_id }) => lesson_id === row.lesson_id).map(({ token }) => token),
  }));
}

const ofLessons = (rows: Knex.QueryBuilder, teacher: TeacherId): Knex.QueryBuilder =>
  listedFor(rows.join('lessons', 'lessons.id', 'lesson_id'), teacher).whereNull('lessons.binned_at');

/** The takes of which some is played in the editions in force. */
async function playedTakes(db: Knex, teacher: TeacherId): Promise<Set<TakeId>> {
  const programmes = await ofLessons(db('programmes'), teacher)
    .whereRaw('programmes.n = lessons.programme_n')
    .select<{ lesson_id: LessonId; segments: string }[]>('lesson_id', 'segments');
  return new Set(programmes.flatMap(({ segments }) => [...takesIn(readForm('programme', segments))]));
}
