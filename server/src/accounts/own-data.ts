import type { Request, Response } from 'express';
import type { Knex } from 'knex';
import { addLesson } from '../archives/archive';
import { inFileName } from '../archives/lesson-files';
import { ArchivePlan } from '../archives/plan';
import { listClasses } from '../classes/classes';
import type {
  AssetRow,
  ClassRow,
  LessonRow,
  TaskRow,
  TeacherRow,
  TemplateAssetRow,
  TemplateRow,
} from '../database/rows';
import type { Ground } from '../http/route';
import { listLinks } from '../links/links';
import { listMails } from '../mail/queue';
import { listQuestions } from '../questions/questions';
import { listStudents } from '../students/students';
import { markingTable } from '../tasks/marking-table';
import { phrasesOf } from '../tasks/phrases';
import { listTemplates } from '../templates/templates';
import { pensOf } from './pens';

/**
 * Sends all that is a teacher's as an archive (see `docs/formats.md`), so that the lessons can be brought in elsewhere; beside them
 * who they are, their pens and templates, and what was said and asked about each lesson. Nothing is locked while it is sent.
 */
export function sendOwnData(
  { db, work, request, response }: Ground & { request: Request; response: Response },
  teacher: TeacherRow,
): Promise<void> {
  const { name, email, created_at: createdAt } = teacher;
  return ArchivePlan.send({ db, request, response }, `kite-trail ${today()}.zip`, async (archive) => {
    const phrases = phrasesOf(teacher);
    await archive.writeJson('account.json', { name, email, createdAt, pens: pensOf(teacher), phrases });
    const classes = await listClasses(db, teacher.id);
    await archive.writeJson('classes.json', classes);
    await archive.writeJson('students.json', await studentsOf(db, teacher));
    await addTemplates(db, teacher, archive);
    for (const lesson of await db<LessonRow>('lessons')
      .where({ teacher_id: teacher.id, aside: null })
      .orderBy('created_at')) {
      const folder = await addLesson({ db, work }, archive, lesson);
      await archive.writeJson(`${folder}/links.json`, await listLinks(db, lesson));
      await archive.writeJson(`${folder}/questions.json`, await listQuestions(db, lesson));
      await archive.writeJson(`${folder}/mails.json`, await listMails(db, lesson.teacher_id, lesson));
      const watched = await work.do('gatherInsight', lesson.teacher_id, { lesson: lesson.id });
      await archive.writeJson(`${folder}/watched.json`, watched);
    }
    archive.nameClasses(classes);
  });
}

/** Who is in the classes, what each was given, and how that stands; the works themselves are taken out by student. */
async function studentsOf(db: Knex, { id }: TeacherRow): Promise<object[]> {
  const classes = await db<ClassRow>('classes').where({ teacher_id: id }).orderBy('position');
  return Promise.all(
    classes.map(async (one) => ({
      schoolClass: one.name,
      students: (await listStudents(db, one)).map(({ name }) => name),
      tasks: await Promise.all(
        (await db<TaskRow>('tasks').where({ class_id: one.id })).map((task) => markingTable(db, task)),
      ),
    })),
  );
}

const today = () => new Date().toISOString().slice(0, 10);

async function addTemplates(db: Knex, { id }: TeacherRow, archive: ArchivePlan): Promise<void> {
  const templates = await listTemplates(db, id);
  await archive.writeJson('templates/templates.json', templates);
  for (const { id: template } of templates) {
    const row = await db<TemplateRow>('page_templates').where({ id: template }).first();
    if (row) await archive.write(`templates/${template}.bin`, row.pieces);
  }
  const files = await db<TemplateAssetRow & TemplateRow & AssetRow>('template_assets')
    .join('page_templates', 'page_templates.id', 'template_assets.template_id')
    .join('assets', 'assets.id', 'template_assets.asset_id')
    .where({ teacher_id: id })
    .orderBy(['asset_id', 'file_name'])
    .distinct('asset_id', 'file_name', 'size_bytes');
  for (const { asset_id, file_name, size_bytes } of files) {
    archive.add(`templates/files/${asset_id.slice(0, 12)} ${inFileName(file_name)}`, asset_id, Number(size_bytes));
  }
}
