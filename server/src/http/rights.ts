import { LIVE_KEY_HEADER } from '@kite-trail/core/contract/live';
import { driveId } from '@kite-trail/core/contract/drive';
import {
  assetId,
  classId,
  lessonId,
  takeId,
  teacherId,
  templateId,
  watchToken,
} from '@kite-trail/core/contract/primitives';
import type { Request } from 'express';
import type { Knex } from 'knex';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import type {
  ClassRow,
  DriveAccountRow,
  LessonAssetRow,
  LessonRow,
  LinkRow,
  LiveFileRow,
  LivePageRow,
  PublicationAssetRow,
  PublicationRow,
  TakeRow,
  TeacherRow,
  TemplateRow,
} from '../database/rows';
import { hasEnded, live } from '../links/live';
import { liveByToken, mayShow, WHOLE_FILE } from '../live/live-pages';
import { checkPass } from '../links/passcode';
import { workedOnBy } from '../together/worked-on';
import { notFound, RequestProblem, signInFirst } from './problem';
import './session-data';

/** What a route asks of whoever calls it. Every route states one; this file alone decides. */
export type Right =
  | 'anyone'
  | 'a teacher'
  | 'a keeper of the school'
  | 'a keeper of the teacher’s school'
  | 'the class’s teacher'
  | 'the lesson’s owner'
  /** Its owner, or a colleague who works on it. */
  | 'the lesson’s teacher'
  | 'the lesson’s file, for its teacher'
  | 'the template’s teacher'
  | 'the teacher of both the lesson and the template'
  | 'the take’s teacher'
  | 'the lesson’s link, for its teacher'
  | 'a teacher, of a listed lesson'
  | 'the drive’s account, for its teacher'
  /** Anybody whom its code has told the token. */
  | 'the live page’s follower'
  | 'the live page’s file, for its follower'
  /** The one window that has its key. */
  | 'the live page’s shower'
  | 'the class page’s holder'
  | 'the link’s holder, before its passcode'
  | 'the link’s holder'
  | 'the link’s publication, for its holder'
  | 'the publication’s file, for the link’s holder';

/** Who calls, and the thing they were found to have a right to. */
export interface Granted {
  anyone: object;
  'a teacher': { teacher: TeacherRow };
  'a keeper of the school': { teacher: TeacherRow };
  'a keeper of the teacher’s school': { teacher: TeacherRow; colleague: TeacherRow };
  'the class’s teacher': { schoolClass: ClassRow };
  'the lesson’s owner': { teacher: TeacherRow; lesson: LessonRow };
  'the lesson’s teacher': { teacher: TeacherRow; lesson: LessonRow };
  'the lesson’s file, for its teacher': { lesson: LessonRow; asset: AssetId };
  'the template’s teacher': { template: TemplateRow };
  'the teacher of both the lesson and the template': { lesson: LessonRow; template: TemplateRow };
  'the take’s teacher': { teacher: TeacherRow; lesson: LessonRow; take: TakeRow };
  'the lesson’s link, for its teacher': { teacher: TeacherRow; lesson: LessonRow; link: LinkRow };
  'a teacher, of a listed lesson': { teacher: TeacherRow; lesson: LessonRow; link: LinkRow };
  'the drive’s account, for its teacher': { teacher: TeacherRow; account: DriveAccountRow };
  'the live page’s follower': { page: LivePageRow };
  'the live page’s file, for its follower': { lesson: LessonRow; asset: AssetId };
  'the live page’s shower': { page: LivePageRow };
  'the class page’s holder': { schoolClass: ClassRow };
  'the link’s holder, before its passcode': { link: LinkRow };
  'the link’s holder': { link: LinkRow };
  'the link’s publication, for its holder': { link: LinkRow; publication: PublicationRow };
  'the publication’s file, for the link’s holder': { publication: PublicationRow; asset: AssetId };
}

/** Who is about to change something keeps everybody else from changing it until the transaction has ended. */
export type Purpose = 'to read' | 'to change';

/**
 * Finds out whether a request has a right, and loads what the right is about.
 * What is another teacher's looks the same as what does not exist.
 * @throws RequestProblem 401 for a stranger, 404 for what is not theirs
 */
export async function grant<R extends Right>(
  db: Knex,
  right: R,
  request: Request,
  purpose: Purpose,
): Promise<Granted[R]> {
  const granted = await GRANTS[right](db, request, purpose).catch((error: unknown) => {
    const teacher = request.session.teacherId;
    if (teacher && error instanceof RequestProblem && error.status === 404) {
      request.noteSecurity('not theirs', { teacher, right });
    }
    throw error;
  });
  return granted as Granted[R];
}

const GRANTS: { [R in Right]: (db: Knex, request: Request, purpose: Purpose) => Promise<Granted[R]> } = {
  anyone: async () => ({}),
  'a teacher': async (db, request) => ({ teacher: await teacherOf(db, request) }),
  'a keeper of the school': async (db, request) => ({ teacher: await keeperOf(db, request) }),
  'a keeper of the teacher’s school': async (db, request) => {
    const teacher = await keeperOf(db, request);
    const id = teacherId.safeParse(request.params.teacher);
    const colleague = id.success ? await db<TeacherRow>('teachers').where({ id: id.data }).first() : undefined;
    if (!colleague) throw notFound('teacher');
    return { teacher, colleague };
  },
  'the class’s teacher': async (db, request, purpose) => {
    const teacher = await teacherOf(db, request);
    const id = classId.safeParse(request.params.class);
    const found = id.success
      ? await held(db<ClassRow>('classes').where({ id: id.data, teacher_id: teacher.id }), purpose).first()
      : undefined;
    if (!found) throw notFound('class');
    return { schoolClass: found };
  },
  'the lesson’s owner': async (db, request, purpose) => {
    const teacher = await teacherOf(db, request);
    const lesson = await lessonFor(db, teacher, request.params.lesson, purpose);
    if (lesson.teacher_id !== teacher.id) throw notFound('lesson');
    return { teacher, lesson };
  },
  'the lesson’s teacher': async (db, request, purpose) => {
    const teacher = await teacherOf(db, request);
    return { teacher, lesson: await lessonFor(db, teacher, request.params.lesson, purpose) };
  },
  'the lesson’s file, for its teacher': async (db, request, purpose) => {
    const lesson = await lessonFor(db, await teacherOf(db, request), request.params.lesson, purpose);
    const asset = assetOf(request);
    const has = await db<LessonAssetRow>('lesson_assets').where({ lesson_id: lesson.id, asset_id: asset }).first();
    if (!has) throw notFound('file');
    return { lesson, asset };
  },
  'the template’s teacher': async (db, request, purpose) => ({
    template: await ownTemplate(db, await teacherOf(db, request), request.params.template, purpose),
  }),
  'the teacher of both the lesson and the template': async (db, request, purpose) => {
    const teacher = await teacherOf(db, request);
    const lesson = await lessonFor(db, teacher, request.params.lesson, purpose);
    return { lesson, template: await ownTemplate(db, teacher, request.params.template, 'to read') };
  },
  'the take’s teacher': async (db, request, purpose) => {
    const teacher = await teacherOf(db, request);
    const id = takeId.safeParse(request.params.take);
    const find = () => (id.success ? db<TakeRow>('takes').where({ id: id.data }).first() : undefined);
    const found = await find();
    if (!found) throw notFound('recording');
    const lesson = await lessonFor(db, teacher, found.lesson_id, purpose);
    // It is read once more, for another request may have changed it before this one had its lesson.
    return { teacher, lesson, take: (await find())! };
  },
  'the lesson’s link, for its teacher': async (db, request, purpose) => {
    const teacher = await teacherOf(db, request);
    const lesson = await lessonFor(db, teacher, request.params.lesson, purpose);
    const token = watchToken.safeParse(request.params.token);
    const link = token.success
      ? await db<LinkRow>('links').where({ token: token.data, lesson_id: lesson.id }).first()
      : undefined;
    if (!link) throw notFound('link');
    return { teacher, lesson, link };
  },
  'a teacher, of a listed lesson': async (db, request, purpose) => {
    const teacher = await teacherOf(db, request);
    const token = watchToken.safeParse(request.params.token);
    const link = token.success
      ? await live(db('links').where({ token: token.data, is_listed: true })).first<LinkRow | undefined>()
      : undefined;
    const lesson =
      link &&
      (await held(db<LessonRow>('lessons').where({ id: link.lesson_id }).whereNull('binned_at'), purpose).first());
    if (!lesson) throw notFound('lesson');
    return { teacher, lesson, link };
  },
  'the drive’s account, for its teacher': async (db, request) => {
    const teacher = await teacherOf(db, request);
    const drive = driveId.safeParse(request.params.drive);
    const account = drive.success
      ? await db<DriveAccountRow>('drive_accounts').where({ teacher_id: teacher.id, drive: drive.data }).first()
      : undefined;
    if (!account) throw notFound('drive');
    return { teacher, account };
  },
  'the live page’s follower': async (db, request) => ({ page: await followedPage(db, request) }),
  'the live page’s file, for its follower': async (db, request) => {
    const { token, lesson_id } = await followedPage(db, request);
    const asset = assetOf(request);
    const page_index = request.params.n === undefined ? WHOLE_FILE : countOf(request.params.n, 'page');
    const seen = await db<LiveFileRow>('live_files').where({ token, asset_id: asset, page_index }).first();
    const lesson = seen && (await db<LessonRow>('lessons').where({ id: lesson_id }).first());
    if (!lesson) throw notFound('file');
    return { lesson, asset };
  },
  'the live page’s shower': async (db, request) => {
    const page = await followedPage(db, request);
    if (!(await mayShow(db, page.token, keyOf(request)))) throw shownElsewhere();
    return { page };
  },
  'the class page’s holder': async (db, request) => {
    const token = watchToken.safeParse(request.params.token);
    const found = token.success ? await db<ClassRow>('classes').where({ page_token: token.data }).first() : undefined;
    if (!found) throw noSuchLink();
    return { schoolClass: found };
  },
  'the link’s holder, before its passcode': async (db, request) => ({ link: await liveLink(db, request) }),
  'the link’s holder': async (db, request) => ({ link: await openLink(db, request) }),
  'the link’s publication, for its holder': publicationOf,
  'the publication’s file, for the link’s holder': async (db, request) => {
    const { publication } = await publicationOf(db, request);
    const asset = assetOf(request);
    const has = await db<PublicationAssetRow>('publication_assets')
      .where({ publication_id: publication.id, asset_id: asset })
      .first();
    if (!has) throw notFound('file');
    return { publication, asset };
  },
};

/** The live page a request names. @throws RequestProblem when it is over */
async function followedPage(db: Knex, request: Request): Promise<LivePageRow> {
  const token = watchToken.safeParse(request.params.token);
  const page = token.success ? await liveByToken(db, token.data) : null;
  if (!page) throw new RequestProblem(404, 'over', 'This page is not shown any more.');
  return page;
}

/** What the window says that shows a live page. */
export const keyOf = (request: Request): string => String(request.get(LIVE_KEY_HEADER));

const shownElsewhere = () =>
  new RequestProblem(409, 'shown-elsewhere', 'Another window of yours shows its page under this code now.');

/**
 * A publication the link leads to, or led to: whoever has begun to watch one goes on with it when another is shared. What was
 * shared by a link that is withdrawn is shared by no later one.
 */
async function publicationOf(db: Knex, request: Request): Promise<{ link: LinkRow; publication: PublicationRow }> {
  const link = await openLink(db, request);
  const id = String(request.params.publication);
  const { lesson_id, part, leads_since } = link;
  const publication = await db<PublicationRow>('publications')
    .where({ id, lesson_id, part })
    .where('made_at', '>=', leads_since)
    .first();
  if (!publication) throw notFound('lesson');
  return { link, publication };
}

/** The link a request names, where it has no passcode or the request has its pass. @throws RequestProblem else */
export async function openLink(db: Knex, request: Request): Promise<LinkRow> {
  const link = await liveLink(db, request);
  checkPass(link, request.query.pass);
  return link;
}

const noSuchLink = () =>
  new RequestProblem(404, 'no-such-link', 'This link leads nowhere. Check that you have all of it.');

/** The link a request names. @throws RequestProblem when it is none, was withdrawn, or has ended */
export async function liveLink(db: Knex, request: Request): Promise<LinkRow> {
  const token = watchToken.safeParse(request.params.token);
  const link: (LinkRow & Pick<LessonRow, 'binned_at'>) | undefined = token.success
    ? await db('links')
        .join('lessons', 'lessons.id', 'lesson_id')
        .where({ token: token.data })
        .first('links.*', 'binned_at')
    : undefined;
  if (!link) throw noSuchLink();
  if (link.withdrawn_at) {
    throw new RequestProblem(410, 'withdrawn', 'The teacher has withdrawn this link. Ask them for a new one.');
  }
  if (hasEnded(link))
    throw new RequestProblem(410, 'ended', 'This link has come to its end. Ask your teacher for a new one.');
  if (link.binned_at) throw new RequestProblem(410, 'binned', 'The teacher has put this lesson away. Ask them for it.');
  return link;
}

/** The file a request names. @throws RequestProblem when it is none */
export function assetOf(request: Request): AssetId {
  const id = assetId.safeParse(request.params.asset);
  if (!id.success) throw notFound('file');
  return id.data;
}

/** What databases keep as whole numbers. */
const MOST_COUNTED = 2 ** 31 - 1;

/** A number from 0 on, as addresses name parts and pages. @throws RequestProblem when it is none */
export function countOf(param: unknown, what: string): number {
  const count = Number(param);
  if (!Number.isInteger(count) || count < 0 || count > MOST_COUNTED) throw notFound(what);
  return count;
}

/** The teacher who calls. @throws RequestProblem 401 for a stranger */
export async function teacherOf(db: Knex, request: Request): Promise<TeacherRow> {
  const id = request.session?.teacherId;
  const teacher = id ? await db<TeacherRow>('teachers').where({ id }).whereNull('shut_out_at').first() : undefined;
  if (!teacher) throw signInFirst();
  return teacher;
}

/** What keepers do is not there for others. */
async function keeperOf(db: Knex, request: Request): Promise<TeacherRow> {
  const teacher = await teacherOf(db, request);
  if (!teacher.is_keeper) throw notFound('page');
  return teacher;
}

async function lessonFor(db: Knex, teacher: TeacherRow, param: unknown, purpose: Purpose): Promise<LessonRow> {
  const id = lessonId.safeParse(param);
  const found = id.success
    ? await held(workedOnBy(db<LessonRow>('lessons').where({ id: id.data }), teacher.id), purpose).first()
    : undefined;
  if (!found) throw notFound('lesson');
  return found;
}

async function ownTemplate(db: Knex, teacher: TeacherRow, param: unknown, purpose: Purpose): Promise<TemplateRow> {
  const id = templateId.safeParse(param);
  const found = id.success
    ? await held(db<TemplateRow>('page_templates').where({ id: id.data, teacher_id: teacher.id }), purpose).first()
    : undefined;
  if (!found) throw notFound('template');
  return found;
}

/** In PostgreSQL rows are locked until the transaction ends. SQLite has one writer, and needs no locks. */
const held = <Query extends Knex.QueryBuilder>(query: Query, purpose: Purpose): Query =>
  purpose === 'to change' ? (query.forUpdate() as Query) : query;
