import type { ClassPage } from '@kite-trail/core/contract/watch';
import type { Knex } from 'knex';
import type { ClassRow, LinkRow, PublicationRow } from '../database/rows';
import { live, newToken } from './live';

type SharedRow = Pick<LinkRow, 'token' | 'passcode_hash'> &
  Pick<PublicationRow, 'title' | 'length_samples' | 'made_at'>;

/** What is shared with a class, in the order in which it is taught; what is not in the class any more comes last. */
export async function classPageOf(db: Knex, { id, name, color }: ClassRow): Promise<ClassPage> {
  const rows = await live(db('links').where({ 'links.class_id': id }))
    .join('lessons', 'lessons.id', 'links.lesson_id')
    .join('publications', 'publications.id', 'links.publication_id')
    .leftJoin('class_lessons', (join) =>
      join.on('class_lessons.lesson_id', 'links.lesson_id').andOn('class_lessons.class_id', 'links.class_id'),
    )
    .whereNull('lessons.binned_at')
    .orderByRaw('case when class_lessons.position is null then 1 else 0 end')
    .orderBy(['class_lessons.position', 'links.made_at', 'links.token'])
    .select<SharedRow[]>(
      'links.token',
      'links.passcode_hash',
      'publications.title',
      'publications.length_samples',
      'publications.made_at',
    );
  return {
    name,
    color,
    lessons: rows.map((row) => ({
      token: row.token,
      title: row.title,
      lengthSamples: Number(row.length_samples),
      sharedAt: row.made_at,
      isLocked: row.passcode_hash !== null,
    })),
  };
}

/** Gives a class a page, at a new address where it had one before. */
export const renewPage = async (db: Knex, { id }: ClassRow): Promise<void> =>
  void (await db('classes').where({ id }).update({ page_token: newToken() }));

/** Takes a class's page away; the links on it stay. */
export const closePage = async (db: Knex, { id }: ClassRow): Promise<void> =>
  void (await db('classes').where({ id }).update({ page_token: null }));
