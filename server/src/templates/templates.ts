import { readForm, writeForm } from '@kite-trail/core/contract/forms';
import type { Template } from '@kite-trail/core/contract/template';
import { decodeContents, pageStateFrom } from '@kite-trail/core/formats/marks-coding';
import type { LessonId, TeacherId, TemplateId } from '@kite-trail/core/lesson/ids';
import type { Page } from '@kite-trail/core/lesson/page';
import type { PageState } from '@kite-trail/core/lesson/scene';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import type { LessonAssetRow, LessonRow, TemplateAssetRow, TemplateRow } from '../database/rows';
import { badInput } from '../http/problem';
import type { NewTemplate } from './read-template';
import { lendTo } from '../together/together';

const MOST_TEMPLATES = 200;

/** The teacher's templates, the newest first. */
export async function listTemplates(db: Knex, teacher: TeacherId): Promise<Template[]> {
  const rows = await db<TemplateRow>('page_templates')
    .where({ teacher_id: teacher })
    .orderBy('made_at', 'desc')
    .select('id', 'name', 'page');
  return rows.map(describe);
}

/**
 * Keeps a page of a lesson as a teacher's template, with the files on it.
 * @throws RequestProblem when the lesson does not have a file on it, or there are too many templates
 */
export async function keepTemplate(
  db: Knex,
  teacher_id: TeacherId,
  lesson: LessonRow,
  { name, page, pieces, files: used }: NewTemplate,
): Promise<Template> {
  const row: TemplateRow = {
    id: nanoid() as TemplateId,
    teacher_id,
    name,
    page: writeForm('page', page),
    pieces: Buffer.from(pieces),
    made_at: new Date().toISOString(),
  };
  const [{ count }] = await db('page_templates').where({ teacher_id }).count({ count: '*' });
  if (Number(count) >= MOST_TEMPLATES) {
    throw badInput(`You have ${MOST_TEMPLATES} templates, the most there can be. Delete one first.`);
  }
  const files = await db<LessonAssetRow>('lesson_assets').where({ lesson_id: lesson.id }).whereIn('asset_id', used);
  if (files.length < used.length)
    throw badInput('A picture on this page has not arrived on the server yet. Try again.');
  await db('page_templates').insert(row);
  await lendTo(db, lesson, teacher_id);
  for (const { asset_id, file_name } of files) {
    await db('template_assets').insert({ template_id: row.id, asset_id, file_name });
  }
  return describe(row);
}

/** Lets a lesson use the files of a template. */
export async function lendFiles(db: Knex, template: TemplateRow, lesson: LessonId): Promise<void> {
  const files = await db<TemplateAssetRow>('template_assets').where({ template_id: template.id });
  for (const { asset_id, file_name } of files) {
    await db('lesson_assets')
      .insert({ lesson_id: lesson, asset_id, file_name })
      .onConflict(['lesson_id', 'asset_id'])
      .ignore();
  }
}

export async function dropTemplate(db: Knex, { id }: TemplateRow): Promise<void> {
  await db('page_templates').where({ id }).delete();
}

export const stateOf = (row: TemplateRow): PageState => pageStateFrom(pageOf(row), decodeContents(row.pieces));

const pageOf = (row: Pick<TemplateRow, 'page'>): Page => readForm('page', row.page);

const describe = (row: Pick<TemplateRow, 'id' | 'name' | 'page'>): Template => ({
  id: row.id,
  name: row.name,
  page: pageOf(row),
});
