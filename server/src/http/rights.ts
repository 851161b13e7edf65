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
  LessonAssetRow,
  LessonRow,
  LinkRow,
  PublicationAssetRow,
  PublicationRow,
  TakeRow,
  TeacherRow,
  TemplateRow,
} from '../database/rows';
import { notFound, RequestProblem, signInFirst } from './problem';
import './session-data';

/** What a route asks of whoever calls it. Every route states one; this file alone decides. */
export type Right =
  | 'anyone'
  | 'a teacher'
  | 'a keeper of the school'
  | 'a keeper of the teacher’s school'
  | 'the class’s teacher'
  | 'the lesson’s teacher'
  | 'the lesson’s file, for its teacher'
  | 'the template’s teacher'
  | 'the teacher of both the lesson and the template'
  | 'the take’s teacher'
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
  'the lesson’s teacher': { teacher: TeacherRow; lesson: LessonRow };
  'the lesson’s file, for its teacher': { lesson: LessonRow; asset: AssetId };
  'the template’s teacher': { template: TemplateRow };
  'the teacher of both the lesson and the template': { lesson: LessonRow; template: TemplateRow };
  'the take’s teacher': { teacher: TeacherRow; lesson: LessonRow; take: TakeRow };
  'the link’s holder': { link: LinkRow };
  'the link’s publication, for its holder': { publication: PublicationRow };
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
  'the lesson’s teacher': async (db, request, purpose) => {
    const teacher = await teacherOf(db, request);
    return { teacher, lesson: await ownLesson(db, teacher, request.params.lesson, purpose) };
  },
  'the lesson’s file, for its teacher': async (db, request, purpose) => {
    const lesson = await ownLesson(db, await teacherOf(db, request), request.params.lesson, purpose);
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
    const lesson = await ownLesson(db, teacher, request.params.lesson, purpose);
    return { lesson, template: await ownTemplate(db, teacher, request.params.template, 'to read') };
  },
  'the take’s teacher': async (db, request, purpose) => {
    const teacher = await teacherOf(db, request);
    const id = takeId.safeParse(request.params.take);
    const find = () => (id.success ? db<TakeRow>('takes').where({ id: id.data }).first() : undefined);
    const found = await find();
    if (!found) throw notFound('recording');
    const lesson = await ownLesson(db, teacher, found.lesson_id, purpose);
    // It is read once more, for another request may have changed it before this one had its lesson.
    return { teacher, lesson, take: (await find())! };
  },
  'the link’s holder': async (db, request) => ({ link: await liveLink(db, request) }),
  'the link’s publication, for its holder': async (db, request) => ({ publication: await publicationOf(db, request) }),
  'the publication’s file, for the link’s holder': async (db, request) => {
    const publication = await publicationOf(db, request);
    const asset = assetOf(request);
    const has = await db<PublicationAssetRow>('publication_assets')
      .where({ publication_id: publication.id, asset_id: asset })
      .first();
    if (!has) throw notFound('file');
    return { publication, asset };
  },
};

/**
 * A publication the link leads to, or led to: whoever has begun to watch one goes on with it when another is shared. What was
 * shared by a link that is withdrawn is shared by no later one.
 */
async function publicationOf(db: Knex, request: Request): Promise<PublicationRow> {
  const { lesson_id, made_at } = await liveLink(db, request);
  const id = String(request.params.publication);
  const publication = await db<PublicationRow>('publications')
    .where({ id, lesson_id })
    .where('made_at', '>=', made_at)
    .first();
  if (!publication) throw notFound('lesson');
  return publication;
}

/** The link a request names. @throws RequestProblem when it is none, or was withdrawn */
export async function liveLink(db: Knex, request: Request): Promise<LinkRow> {
  const token = watchToken.safeParse(request.params.token);
  const link = token.success ? await db<LinkRow>('links').where({ token: token.data }).first() : undefined;
  if (!link) {
    throw new RequestProblem(404, 'no-such-link', 'This link leads nowhere. Check that you have all of it.');
  }
  if (link.withdrawn_at) {
    throw new RequestProblem(410, 'withdrawn', 'The teacher has withdrawn this link. Ask them for a new one.');
  }
  const { binned_at } = (await db<LessonRow>('lessons').where({ id: link.lesson_id }).first('binned_at'))!;
  if (binned_at) throw new RequestProblem(410, 'binned', 'The teacher has put this lesson away. Ask them for it.');
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

async function ownLesson(db: Knex, teacher: TeacherRow, param: unknown, purpose: Purpose): Promise<LessonRow> {
  const id = lessonId.safeParse(param);
  const found = id.success
    ? await held(db<LessonRow>('lessons').where({ id: id.data, teacher_id: teacher.id }), purpose).first()
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
