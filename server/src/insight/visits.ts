import type { VisitReport } from '@kite-trail/core/contract/visit';
import { noVisits, stepCount, type VisitSums } from '@kite-trail/core/trail/visits';
import type { Knex } from 'knex';
import type {
  LessonRow,
  LinkRow,
  PublicationRow,
  SchoolRow,
  VisitDayRow,
  VisitRow,
  VisitSumsRow,
} from '../database/rows';

/** A visit of which nothing more was heard for so long is over. */
const LASTS_MS = 6 * 3600 * 1000;

/** Whether the school counts at all. */
export const isCounting = async (db: Knex): Promise<boolean> =>
  Boolean((await db<SchoolRow>('school').first())?.is_counting ?? true);

/** Whether it is counted how a link is watched. */
export async function isCounted(db: Knex, { lesson_id }: LinkRow): Promise<boolean> {
  const lesson = await db<LessonRow>('lessons').where({ id: lesson_id }).first('is_counted');
  return Boolean(lesson?.is_counted) && (await isCounting(db));
}

/**
 * Adds to a link's sums what a visit tells. Of the visit itself only its number is kept, how far it has come and where it is, until it
 * is over; the same report counts once.
 */
export async function noteVisit(
  db: Knex,
  link: LinkRow,
  publication: PublicationRow,
  report: VisitReport,
): Promise<void> {
  if (!(await isCounted(db, link))) return;
  const { token } = link;
  const about = { token, publication_id: publication.id };
  const lengthSamples = Number(publication.length_samples);
  const none = JSON.stringify(noVisits(lengthSamples));
  await db('visit_sums')
    .insert({ ...about, visits: 0, sums: none })
    .onConflict(['token', 'publication_id'])
    .ignore();
  // Whoever counts holds the sums, and with them the link's visits.
  const kept = (await db<VisitSumsRow>('visit_sums').where(about).forUpdate().first())!;
  const visit = await db<VisitRow>('visits').where({ id: report.visit }).first();
  if (visit && (visit.token !== token || visit.publication_id !== publication.id || report.n < visit.reports)) return;

  const at = Math.min(report.at, stepCount(lengthSamples) - 1);
  const furthest = Math.max(visit?.furthest ?? 0, at);
  const sums = JSON.parse(kept.sums) as VisitSums;
  for (const key of ['heard', 'wentBack', 'slowed'] as const) {
    sums[key] = sums[key].map((count, step) => count + (report[key][step] ?? 0));
  }
  if (visit) {
    sums.furthest[visit.furthest]--;
    if (visit.stopped !== null) sums.stopped[visit.stopped]--;
  }
  sums.furthest[furthest]++;
  sums.stopped[at]++;
  const visits = kept.visits + (visit ? 0 : 1);
  await db('visit_sums')
    .where(about)
    .update({ visits, sums: JSON.stringify(sums) });
  const now = { reports: report.n + 1, furthest, stopped: at, seen_at: new Date().toISOString() };
  if (visit) await db('visits').where({ id: visit.id }).update(now);
  else await db('visits').insert({ id: report.visit, ...about, ...now } satisfies VisitRow);
  await addToDay(db, token, visit ? 0 : 1, Math.round(report.heardSeconds));
}

async function addToDay(db: Knex, token: string, visits: number, seconds: number): Promise<void> {
  const day = { token, day: new Date().toISOString().slice(0, 10) };
  await db('visit_days')
    .insert({ ...day, visits: 0, heard_seconds: 0 } satisfies VisitDayRow)
    .onConflict(['token', 'day'])
    .ignore();
  await db('visit_days').where(day).increment({ visits, heard_seconds: seconds });
}

/** Forgets the numbers of visits that are over: their sums stay. */
export const forgetVisits = async (db: Knex): Promise<void> =>
  void (await db('visits')
    .where('seen_at', '<', new Date(Date.now() - LASTS_MS).toISOString())
    .delete());
