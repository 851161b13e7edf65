import { driveId } from '@kite-trail/core/contract/drive';
import { classId, teacherId, templateId, watchToken } from '@kite-trail/core/contract/primitives';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import type { Request } from 'express';
import type { Knex } from 'knex';
import type {
  ClassRow,
  DriveAccountRow,
  HandInRow,
  LessonRow,
  LinkRow,
  LivePageRow,
  PublicationRow,
  ReplyRow,
  StudentRow,
  TakeRow,
  TaskRow,
  TeacherRow,
  TemplateRow,
} from '../database/rows';
import { live } from '../links/live';
import { held, keeperOf, teacherOf, type Purpose, type Writer } from './callers';
import { HOLDERS_GRANTS } from './holders';
import { lessonFor } from './lessons-of-teachers';
import { notFound, RequestProblem } from './problem';
import { STUDENTS_GRANTS } from './students';

/** What a route asks of whoever calls it. Every route states one; here alone, in `holders` and in `students` it is decided. */
export type Right =
  | 'anyone'
  | 'a teacher'
  | 'a keeper of the school'
  | 'a keeper of the teacher’s school'
  | 'the class’s teacher'
  | 'the lesson’s owner'
  /** Its owner, or a colleague who works on it. */
  | 'the lesson’s teacher'
  | 'the template’s teacher'
  | 'the teacher of both the lesson and the template'
  | 'the lesson’s link, for its teacher'
  | 'a teacher, of a listed lesson'
  | 'the drive’s account, for its teacher'
  /** Anybody whom its code has told the token. */
  | 'the live page’s follower'
  | 'the live page’s file, for its follower'
  /** The one window that has its key. */
  | 'the live page’s shower'
  /** A teacher, or a student: whoever makes lessons. */
  | 'a writer'
  /** Whoever writes in it: its teacher, or the student whose work it is. */
  | 'the lesson’s writer'
  | 'the lesson’s file, for its writer'
  | 'the take’s writer'
  | 'a student'
  | 'the student’s task'
  /** The student whose work it is. */
  | 'the reply’s student'
  /** Of what was handed in and given back, the student whose work it is. */
  | 'the feedback’s student'
  | 'the student’s teacher'
  | 'the task’s teacher'
  /** Of what is asked now, its teacher, while it is written. */
  | 'the live reply’s teacher'
  | 'the hand-in’s teacher'
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
  'the template’s teacher': { template: TemplateRow };
  'the teacher of both the lesson and the template': { lesson: LessonRow; template: TemplateRow };
  'the lesson’s link, for its teacher': { teacher: TeacherRow; lesson: LessonRow; link: LinkRow };
  'a teacher, of a listed lesson': { teacher: TeacherRow; lesson: LessonRow; link: LinkRow };
  'the drive’s account, for its teacher': { teacher: TeacherRow; account: DriveAccountRow };
  'the live page’s follower': { page: LivePageRow };
  'the live page’s file, for its follower': { lesson: LessonRow; asset: AssetId };
  'the live page’s shower': { page: LivePageRow };
  'a writer': { writer: Writer };
  'the lesson’s writer': { writer: Writer; lesson: LessonRow };
  'the lesson’s file, for its writer': { lesson: LessonRow; asset: AssetId };
  'the take’s writer': { writer: Writer; lesson: LessonRow; take: TakeRow };
  'a student': { student: StudentRow };
  'the student’s task': { student: StudentRow; task: TaskRow };
  'the reply’s student': { student: StudentRow; reply: ReplyRow; lesson: LessonRow };
  'the feedback’s student': { student: StudentRow; handIn: HandInRow; lesson: LessonRow };
  'the student’s teacher': { student: StudentRow };
  'the task’s teacher': { teacher: TeacherRow; task: TaskRow };
  'the live reply’s teacher': { reply: ReplyRow };
  'the hand-in’s teacher': { teacher: TeacherRow; handIn: HandInRow; lesson: LessonRow };
  'the class page’s holder': { schoolClass: ClassRow };
  'the link’s holder, before its passcode': { link: LinkRow };
  'the link’s holder': { link: LinkRow };
  'the link’s publication, for its holder': { link: LinkRow; publication: PublicationRow };
  'the publication’s file, for the link’s holder': { publication: PublicationRow; asset: AssetId };
}

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

export type Grants = { [R in Right]: (db: Knex, request: Request, purpose: Purpose) => Promise<Granted[R]> };

const GRANTS: Grants = {
  ...HOLDERS_GRANTS,
  ...STUDENTS_GRANTS,
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
  'the template’s teacher': async (db, request, purpose) => ({
    template: await ownTemplate(db, await teacherOf(db, request), request.params.template, purpose),
  }),
  'the teacher of both the lesson and the template': async (db, request, purpose) => {
    const teacher = await teacherOf(db, request);
    const lesson = await lessonFor(db, teacher, request.params.lesson, purpose);
    return { lesson, template: await ownTemplate(db, teacher, request.params.template, 'to read') };
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
};

async function ownTemplate(db: Knex, teacher: TeacherRow, param: unknown, purpose: Purpose): Promise<TemplateRow> {
  const id = templateId.safeParse(param);
  const found = id.success
    ? await held(db<TemplateRow>('page_templates').where({ id: id.data, teacher_id: teacher.id }), purpose).first()
    : undefined;
  if (!found) throw notFound('template');
  return found;
}
