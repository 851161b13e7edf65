import { readForm, writeForm } from '@kite-trail/core/contract/forms';
import type { ChangedLink, Link, LinkSettings, NewLink } from '@kite-trail/core/contract/link';
import type { TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { ClassRow, LessonRow, LinkRow, PublicationRow } from '../database/rows';
import { conflict, notFound } from '../http/problem';
import { currentEdit } from '../lessons/editions';
import { noPasscode } from './passcode';
import { hasEnded, liveLinks, newToken, rulesOf } from './live';

const now = () => new Date().toISOString();

/** A lesson's links, the newest first, also those that lead nowhere any more. */
export async function listLinks(db: Knex, lesson: LessonRow): Promise<Link[]> {
  const rows = await db<LinkRow>('links').where({ lesson_id: lesson.id }).orderBy('made_at', 'desc').orderBy('token');
  const ids = rows.map(({ publication_id }) => publication_id);
  const publications = await db<PublicationRow>('publications').whereIn('id', ids);
  const isCurrent = await currentCheck(db, lesson);
  return rows.map((row) => {
    const publication = publications.find(({ id }) => id === row.publication_id)!;
    return {
      token: row.token,
      settings: {
        name: row.name,
        schoolClass: row.class_id,
        isListed: Boolean(row.is_listed),
        endsAt: row.ends_at,
        ...rulesOf(row),
      },
      hasPasscode: row.passcode_hash !== null,
      state: row.withdrawn_at !== null ? 'withdrawn' : hasEnded(row) ? 'ended' : 'live',
      part: row.part === null ? null : readForm('part', row.part),
      isUpToDate: isCurrent(publication),
      lengthSamples: Number(publication.length_samples),
      madeAt: row.made_at,
      lastWatchedOn: row.last_watched_on,
    };
  });
}

/** Tells of publications whether they play what the lesson is now. */
export async function currentCheck(db: Knex, lesson: LessonRow): Promise<(one: PublicationRow) => boolean> {
  const edit = await currentEdit(db, lesson);
  // After an undo, another edit may have come to have the same number.
  return ({ programme_n, made_at }) => programme_n === edit.n && made_at >= edit.madeAt;
}

/**
 * Makes one more link to what was published of a lesson. @returns its token
 * @throws RequestProblem where what it is to lead to has not been published as it is now, or the class is not the teacher's
 */
export async function makeLink(
  db: Knex,
  teacher: TeacherId,
  lesson: LessonRow,
  { settings, part, awaitsPasscode }: NewLink,
): Promise<string> {
  const written = part && writeForm('part', part);
  const newest = await db<PublicationRow>('publications')
    .where({ lesson_id: lesson.id, part: written })
    .orderBy('made_at', 'desc')
    .first();
  if (!newest || !(await currentCheck(db, lesson))(newest)) {
    throw conflict('not-published', 'The lesson was edited meanwhile. Make the link again.');
  }
  const token = newToken();
  await db('links').insert({
    token,
    lesson_id: lesson.id,
    publication_id: newest.id,
    leads_since: newest.made_at,
    made_at: now(),
    withdrawn_at: null,
    ...(await columnsOf(db, teacher, settings, null)),
    passcode_hash: awaitsPasscode ? noPasscode() : null,
    part: written,
    last_watched_on: null,
  } satisfies LinkRow);
  return token;
}

/** Changes what a link allows; its address stays. @throws RequestProblem where the class is not the teacher's */
export async function changeLink(
  db: Knex,
  teacher: TeacherId,
  { token, class_id }: LinkRow,
  { settings }: ChangedLink,
) {
  await db('links')
    .where({ token })
    .update(await columnsOf(db, teacher, settings, class_id));
}

/** @param passcode_hash the new passcode's, or `null` for none any more */
export const setPasscode = async (db: Knex, { token }: LinkRow, passcode_hash: string | null): Promise<void> =>
  void (await db('links').where({ token }).update({ passcode_hash }));

/** @param before the class it was given to: perhaps a colleague's, where it stays */
async function columnsOf(db: Knex, teacher: TeacherId, settings: LinkSettings, before: LinkRow['class_id']) {
  const { name, schoolClass, isListed, endsAt, mayCopy, allows, sites } = settings;
  if (schoolClass !== null && schoolClass !== before) await openPage(db, teacher, schoolClass);
  return {
    name,
    class_id: schoolClass,
    is_listed: isListed,
    ends_at: endsAt && new Date(endsAt).toISOString(),
    rules: writeForm('link-rules', { mayCopy, allows, sites }),
  };
}

/** Whoever shares with a class wants it to have a page. @throws RequestProblem where the class is not theirs */
async function openPage(db: Knex, teacher_id: TeacherId, id: NonNullable<LinkRow['class_id']>) {
  const found = await db<ClassRow>('classes').where({ id, teacher_id }).forUpdate().first();
  if (!found) throw notFound('class');
  if (found.page_token === null) await db('classes').where({ id }).update({ page_token: newToken() });
}

/** Keeps the day on which somebody last watched by a link: no more of whoever watches. */
export async function noteWatched(db: Knex, { token, last_watched_on }: LinkRow): Promise<void> {
  const today = now().slice(0, 10);
  if (last_watched_on !== today) await db('links').where({ token }).update({ last_watched_on: today });
}

/** Withdraws a link: from now on it plays nothing. */
export const withdraw = async (db: Knex, { token }: LinkRow): Promise<void> =>
  void (await db('links').where({ token }).whereNull('withdrawn_at').update({ withdrawn_at: now() }));

/** Lets a lesson's links to the same part, or to the whole, lead to a new publication. */
export async function leadTo(db: Knex, { id, lesson_id, part, made_at }: PublicationRow): Promise<void> {
  const tokens: string[] = await liveLinks(db, lesson_id).where({ part }).pluck('token');
  await db('links').whereIn('token', tokens).update({ publication_id: id });
  if (tokens.length > 0 || part !== null) return;
  await db('links').insert({ token: newToken(), lesson_id, publication_id: id, leads_since: made_at, made_at });
}
