import { MOST_LISTED, type ListedLesson } from '@kite-trail/core/contract/catalogue';
import type { TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { FavouriteRow, LessonRow, LinkRow, PublicationRow, TeacherRow } from '../database/rows';
import { aboutOf } from '../lessons/lessons';
import { live, rulesOf } from '../links/live';

type ListedRow = Pick<LinkRow, 'token' | 'lesson_id' | 'rules' | 'passcode_hash' | 'part'> &
  Pick<LessonRow, 'about' | 'teacher_id'> &
  Pick<PublicationRow, 'id' | 'title' | 'length_samples' | 'made_at'> &
  Pick<TeacherRow, 'name'>;

/** What the school's teachers list for one another, what was shared last first. */
export async function listCatalogue(db: Knex, { reader }: { reader: TeacherId }): Promise<ListedLesson[]> {
  const favourites = await db<FavouriteRow>('favourites').where({ teacher_id: reader }).pluck('lesson_id');
  const isFavourite = new Set(favourites);
  const rows = await listed(db)
    .join('publications', 'publications.id', 'links.publication_id')
    .join('teachers', 'teachers.id', 'lessons.teacher_id')
    .orderBy('publications.made_at', 'desc')
    .limit(MOST_LISTED)
    .select<ListedRow[]>(
      'links.token',
      'links.lesson_id',
      'links.rules',
      'links.passcode_hash',
      'links.part',
      'lessons.about',
      'lessons.teacher_id',
      'publications.id',
      'publications.title',
      'publications.length_samples',
      'publications.made_at',
      'teachers.name',
    );
  return rows.map((row) => ({
    token: row.token,
    publication: row.passcode_hash === null ? row.id : null,
    id: row.lesson_id,
    title: row.title,
    about: aboutOf(row),
    teacher: row.name,
    isOwn: row.teacher_id === reader,
    isFavourite: isFavourite.has(row.lesson_id),
    mayCopy: mayBeCopied(row),
    isLocked: row.passcode_hash !== null,
    lengthSamples: Number(row.length_samples),
    sharedAt: row.made_at,
  }));
}

/** A copy is the whole lesson: where only a part is shown, or only to those who know a passcode, it is not to be had. */
export const mayBeCopied = (link: Pick<LinkRow, 'rules' | 'part' | 'passcode_hash'>): boolean =>
  rulesOf(link).mayCopy && link.part === null && link.passcode_hash === null;

/** Links that are listed, and can be watched. */
export const listed = (db: Knex): Knex.QueryBuilder =>
  live(db('links').where({ 'links.is_listed': true }))
    .join('lessons', 'lessons.id', 'links.lesson_id')
    .whereNull('lessons.binned_at');

/** Keeps another teacher's listed lesson among one's favourites, or not. */
export async function favourListed(db: Knex, teacher_id: TeacherId, lesson: LessonRow, isFavourite: boolean) {
  const row = { teacher_id, lesson_id: lesson.id };
  if (isFavourite) await db('favourites').insert(row).onConflict(['teacher_id', 'lesson_id']).ignore();
  else await db('favourites').where(row).delete();
}
