import { assetId, lessonId, takeId, templateId, watchToken } from '@kite-trail/core/contract/primitives';
import type { Request } from 'express';
import type { Knex } from 'knex';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import type {
  LessonAssetRow,
  LessonRow,
  LinkRow,
  PublicationAssetRow,
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
  | 'the lesson’s teacher'
  | 'the lesson’s file, for its teacher'
  | 'the template’s teacher'
  | 'the teacher of both the lesson and the template'
  | 'the take’s teacher'
  | 'the link’s holder'
  | 'the link’s file, for its holder';

/** Who calls, and the thing they were found to have a right to. */
export interface Granted {
  anyone: object;
  'a teacher': { teacher: TeacherRow };
  'the lesson’s teacher': { teacher: TeacherRow; lesson: LessonRow };
  'the lesson’s file, for its teacher': { lesson: LessonRow; asset: AssetId };
  'the template’s teacher': { template: TemplateRow };
  'the teacher of both the lesson and the template': { lesson: LessonRow; template: TemplateRow };
  'the take’s teacher': { teacher: TeacherRow; lesson: LessonRow; take: TakeRow };
  'the link’s holder': { link: LinkRow };
  'the link’s file, for its holder': { asset: AssetId };
}

/**
 * Finds out whether a request has a right, and loads what the right is about.
 * What is another teacher's looks the same as what does not exist.
 * @throws RequestProblem 401 for a stranger, 404 for what is not theirs
 */
export async function grant<R extends Right>(db: Knex, right: R, request: Request): Promise<Granted[R]> {
  const granted = await GRANTS[right](db, request);
  return granted as Granted[R];
}

const GRANTS: { [R in Right]: (db: Knex, request: Request) => Promise<Granted[R]> } = {
  anyone: async () => ({}),
  'a teacher': async (db, request) => ({ teacher: await teacherOf(db, request) }),
  'the lesson’s teacher': async (db, request) => {
    const teacher = await teacherOf(db, request);
    return { teacher, lesson: await ownLesson(db, teacher, request.params.lesson) };
  },
  'the lesson’s file, for its teacher': async (db, request) => {
    const lesson = await ownLesson(db, await teacherOf(db, request), request.params.lesson);
    const asset = assetOf(request);
    const has = await db<LessonAssetRow>('lesson_assets').where({ lesson_id: lesson.id, asset_id: asset }).first();
    if (!has) throw notFound('file');
    return { lesson, asset };
  },
  'the template’s teacher': async (db, request) => ({
    template: await ownTemplate(db, await teacherOf(db, request), request.params.template),
  }),
  'the teacher of both the lesson and the template': async (db, request) => {
    const teacher = await teacherOf(db, request);
    const lesson = await ownLesson(db, teacher, request.params.lesson);
    return { lesson, template: await ownTemplate(db, teacher, request.params.template) };
  },
  'the take’s teacher': async (db, request) => {
    const teacher = await teacherOf(db, request);
    const id = takeId.safeParse(request.params.take);
    const take = id.success ? await db<TakeRow>('takes').where({ id: id.data }).first() : undefined;
    if (!take) throw notFound('recording');
    return { teacher, lesson: await ownLesson(db, teacher, take.lesson_id), take };
  },
  'the link’s holder': async (db, request) => ({ link: await liveLink(db, request) }),
  'the link’s file, for its holder': async (db, request) => {
    const link = await liveLink(db, request);
    const asset = assetOf(request);
    const has = await db<PublicationAssetRow>('publication_assets')
      .where({ publication_id: link.publication_id, asset_id: asset })
      .first();
    if (!has) throw notFound('file');
    return { asset };
  },
};

async function liveLink(db: Knex, request: Request): Promise<LinkRow> {
  const token = watchToken.safeParse(request.params.token);
  const link = token.success ? await db<LinkRow>('links').where({ token: token.data }).first() : undefined;
  if (!link) {
    throw new RequestProblem(404, 'no-such-link', 'This link leads nowhere. Check that you have all of it.');
  }
  if (link.withdrawn_at) {
    throw new RequestProblem(410, 'withdrawn', 'The teacher has withdrawn this link. Ask them for a new one.');
  }
  return link;
}

function assetOf(request: Request): AssetId {
  const id = assetId.safeParse(request.params.asset);
  if (!id.success) throw notFound('file');
  return id.data;
}

/** The teacher who calls. @throws RequestProblem 401 for a stranger */
export async function teacherOf(db: Knex, request: Request): Promise<TeacherRow> {
  const id = request.session?.teacherId;
  const teacher = id ? await db<TeacherRow>('teachers').where('id', id).first() : undefined;
  if (!teacher) throw signInFirst();
  return teacher;
}

async function ownLesson(db: Knex, teacher: TeacherRow, param: unknown): Promise<LessonRow> {
  const id = lessonId.safeParse(param);
  const lesson = id.success
    ? await db<LessonRow>('lessons').where({ id: id.data, teacher_id: teacher.id }).first()
    : undefined;
  if (!lesson) throw notFound('lesson');
  return lesson;
}

async function ownTemplate(db: Knex, teacher: TeacherRow, param: unknown): Promise<TemplateRow> {
  const id = templateId.safeParse(param);
  const template = id.success
    ? await db<TemplateRow>('page_templates').where({ id: id.data, teacher_id: teacher.id }).first()
    : undefined;
  if (!template) throw notFound('template');
  return template;
}
