import { readForm } from '@kite-trail/core/contract/forms';
import type { Insight } from '@kite-trail/core/contract/visit';
import { programmeLength } from '@kite-trail/core/trail/programme';
import { addedSums, noVisits, sumsFor, type VisitSums } from '@kite-trail/core/trail/visits';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { LessonRow, LinkRow, PublicationRow, VisitDayRow, VisitSumsRow } from '../database/rows';
import { currentProgramme } from '../lessons/editions';
import { lessonOf } from '../lessons/lessons';
import { isCounting } from './visits';

/** How a lesson was watched by each of its links, along the lesson as it is now, whatever was played then. */
export async function gatherInsight(db: Knex, { lesson: id }: { lesson: LessonId }): Promise<Insight> {
  const lesson = await lessonOf(db, id);
  const programme = await currentProgramme(db, lesson);
  const lengthSamples = programmeLength(programme);
  const links = await db<LinkRow>('links').where({ lesson_id: id }).orderBy('made_at', 'desc').orderBy('token');
  const tokens = links.map(({ token }) => token);
  const counted = await db<VisitSumsRow>('visit_sums').whereIn('token', tokens);
  const days = await db<VisitDayRow>('visit_days').whereIn('token', tokens).orderBy('day');
  const publications = await db<PublicationRow>('publications').whereIn(
    'id',
    counted.map(({ publication_id }) => publication_id),
  );
  const playedBy = new Map(publications.map(({ id: one, programme: text }) => [one, text]));

  const now = (row: VisitSumsRow): VisitSums => {
    const text = playedBy.get(row.publication_id);
    return sumsFor(programme, text ? readForm('programme', text) : programme, JSON.parse(row.sums) as VisitSums);
  };
  return {
    lengthSamples,
    isCounted: Boolean(lesson.is_counted),
    isCounting: await isCounting(db),
    links: links.map(({ token, name, class_id }) => {
      const own = counted.filter((row) => row.token === token);
      return {
        token,
        name,
        schoolClass: class_id,
        visits: own.reduce((sum, { visits }) => sum + visits, 0),
        sums: own.map(now).reduce(addedSums, noVisits(lengthSamples)),
        days: days
          .filter((row) => row.token === token)
          .map(({ day, visits, heard_seconds }) => ({ day, visits, heardSeconds: heard_seconds })),
      };
    }),
  };
}

/** Lets a lesson be counted, or not. What was counted stays, unless it is deleted. */
export const countLesson = async (db: Knex, { id }: LessonRow, is_counted: boolean): Promise<void> =>
  void (await db('lessons').where({ id }).update({ is_counted }));

/** Deletes all that was counted of a lesson. */
export async function forgetCounts(db: Knex, { id }: LessonRow): Promise<void> {
  const tokens = db<LinkRow>('links').where({ lesson_id: id }).select('token');
  for (const table of ['visits', 'visit_sums', 'visit_days']) await db(table).whereIn('token', tokens.clone()).delete();
}

export async function countSchool(db: Knex, is_counting: boolean): Promise<void> {
  await db('school').insert({ id: 1, is_counting }).onConflict('id').merge();
}
