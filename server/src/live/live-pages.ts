import { createHash } from 'node:crypto';
import type { LivePage, shownFiles } from '@kite-trail/core/contract/live';
import type { LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { z } from 'zod';
import type { LessonAssetRow, LessonRow, LivePageRow, TeacherRow } from '../database/rows';
import { freeCode } from '../http/codes';
import { RequestProblem } from '../http/problem';
import { newToken } from '../links/live';
import { workedOnBy } from '../together/worked-on';

/** A page that nobody has shown for so long is over: its code may be another's. */
const OVER_AFTER_MS = 12 * 3600 * 1000;

/** That a page is shown is noted no more often than this. */
const NOTED_AFTER_MS = 60_000;

/**
 * A teacher's page is shown by the window that asks for it, of the lesson that is open there. It keeps its code from one lesson to
 * the next, and where another window takes it over, until the teacher ends it.
 */
export async function beginLive(db: Knex, teacher: TeacherId, lesson: LessonId): Promise<LivePage> {
  const key = newToken();
  const now = { lesson_id: lesson, key_hash: hashOf(key), shown_at: new Date().toISOString() };
  const fresh = { teacher_id: teacher, token: newToken(), code: await freeCode(db, 'live_pages'), ...now };
  await db('live_pages')
    .insert(fresh satisfies LivePageRow)
    .onConflict('teacher_id')
    .merge(['lesson_id', 'key_hash', 'shown_at']);
  const { token, code } = (await db<LivePageRow>('live_pages').where({ teacher_id: teacher }).first())!;
  await db('live_files').where({ token }).delete();
  return { code, token, key };
}

/** @returns the page that was ended */
export async function endLive(db: Knex, teacher: TeacherId): Promise<LivePageRow | null> {
  const page = await db<LivePageRow>('live_pages').where({ teacher_id: teacher }).first();
  await db('live_pages').where({ teacher_id: teacher }).delete();
  return page ?? null;
}

/** The page a code leads to. @throws RequestProblem where it leads nowhere */
export async function liveByCode(db: Knex, code: string): Promise<LivePageRow> {
  const page = await db<LivePageRow>('live_pages').where({ code }).first();
  if (page) return page;
  throw new RequestProblem(
    404,
    'no-such-page',
    'No page is shown under this code just now. Look at the code once more, or ask your teacher.',
  );
}

/** Whoever follows may see these files of the lesson from now on. @returns those that the school has not got yet */
export async function letBeSeen(db: Knex, { token, lesson_id }: LivePageRow, files: ShownFiles): Promise<ShownFiles> {
  const had = await db<LessonAssetRow>('lesson_assets')
    .where({ lesson_id })
    .whereIn('asset_id', [...new Set(files.map(({ asset }) => asset))])
    .select('asset_id');
  const known = new Set(had.map(({ asset_id }) => asset_id));
  for (const { asset, pageIndex } of files) {
    if (!known.has(asset)) continue;
    // A whole file has no page; what is compared must not be null.
    const row = { token, asset_id: asset, page_index: pageIndex ?? WHOLE_FILE };
    await db('live_files').insert(row).onConflict(['token', 'asset_id', 'page_index']).ignore();
  }
  return files.filter(({ asset }) => !known.has(asset));
}

type ShownFiles = z.output<typeof shownFiles>;

/** In the place of a page's index. */
export const WHOLE_FILE = -1;

/**
 * Whether a window may go on showing a page: it has the newest key, and the lesson is still there for its teacher. That it was shown
 * is noted.
 */
export async function mayShow(db: Knex, token: string, key: string): Promise<boolean> {
  const page = await db<LivePageRow>('live_pages')
    .where({ token, key_hash: hashOf(key) })
    .first();
  if (!page || !(await isStillTheirs(db, page))) return false;
  if (Date.now() - Date.parse(page.shown_at) > NOTED_AFTER_MS) {
    await db('live_pages').where({ token }).update({ shown_at: new Date().toISOString() });
  }
  return true;
}

/** The page behind a token, where it may be followed. */
export async function liveByToken(db: Knex, token: string): Promise<LivePageRow | null> {
  const page = await db<LivePageRow>('live_pages').where({ token }).first();
  return page && (await isStillTheirs(db, page)) ? page : null;
}

async function isStillTheirs(db: Knex, { teacher_id, lesson_id }: LivePageRow): Promise<boolean> {
  const teacher = await db<TeacherRow>('teachers').where({ id: teacher_id }).whereNull('shut_out_at').first('id');
  const lesson = workedOnBy(db<LessonRow>('lessons').where({ id: lesson_id }).whereNull('binned_at'), teacher_id);
  return teacher !== undefined && (await lesson.first()) !== undefined;
}

/** Lets go the pages that nobody has shown for long. */
export const forgetLivePages = (db: Knex): Promise<number> =>
  db('live_pages')
    .where('shown_at', '<', new Date(Date.now() - OVER_AFTER_MS).toISOString())
    .delete();

const hashOf = (key: string): string => createHash('sha256').update(key).digest('hex');
