import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import type { Response } from 'express';
import type { Knex } from 'knex';
import { ZipFile } from 'yazl';
import { chunksOf } from '../assets/assets';
import { listClasses } from '../classes/classes';
import type {
  LessonAssetRow,
  LessonRow,
  TakePartRow,
  TakeRow,
  TeacherRow,
  TemplateAssetRow,
  TemplateRow,
} from '../database/rows';
import type { Ground } from '../http/route';
import { tellLesson } from '../lessons/describe';
import { listLinks } from '../links/links';
import { listMails } from '../mail/queue';
import { listQuestions } from '../questions/questions';
import { listTemplates } from '../templates/templates';
import { pensOf } from './pens';

/**
 * Sends all that is a teacher's as a ZIP (see `docs/formats.md`): who they are, their pens and templates, and each lesson with
 * its recordings and files. Nothing of it is ever in memory as a whole, and nothing is locked while it is sent.
 */
export async function sendOwnData({ db, work }: Ground, teacher: TeacherRow, response: Response): Promise<void> {
  const zip = new ZipFile();
  const { name, email, created_at: createdAt } = teacher;
  addJson(zip, 'account.json', async () => ({ name, email, createdAt, pens: pensOf(teacher) }));
  addJson(zip, 'classes.json', () => listClasses(db, teacher.id));
  await addTemplates(db, teacher, zip);
  const lessons = await db<LessonRow>('lessons').where({ teacher_id: teacher.id }).orderBy('created_at');
  for (const lesson of lessons) await addLesson({ db, work }, lesson, zip);
  zip.end();
  response.attachment(`kite-trail ${new Date().toISOString().slice(0, 10)}.zip`).type('application/zip');
  response.set('Cache-Control', 'no-store');
  await pipeline(zip.outputStream, response);
}

async function addTemplates(db: Knex, { id }: TeacherRow, zip: ZipFile): Promise<void> {
  addJson(zip, 'templates/templates.json', () => listTemplates(db, id));
  for (const { id: template } of await listTemplates(db, id)) {
    const bytesOf = async () => (await db<TemplateRow>('page_templates').where({ id: template }).first())?.pieces ?? '';
    addStream(zip, `templates/${template}.bin`, () => Readable.from(eventually(bytesOf)));
  }
  const files = await db<TemplateAssetRow & TemplateRow>('template_assets')
    .join('page_templates', 'page_templates.id', 'template_assets.template_id')
    .where({ teacher_id: id })
    .distinct('asset_id', 'file_name');
  for (const file of files) addAsset(db, zip, `templates/files/${fileName(file)}`, file.asset_id);
}

async function addLesson({ db, work }: Ground, lesson: LessonRow, zip: ZipFile): Promise<void> {
  const folder = `lessons/${inFileName(lesson.title)} ${lesson.id}`;
  const described = () => tellLesson(lesson.id, { db, work, owner: lesson.teacher_id });
  addStream(zip, `${folder}/lesson.json`, () => Readable.from(eventually(described)), true);
  addJson(zip, `${folder}/links.json`, () => listLinks(db, lesson));
  addJson(zip, `${folder}/questions.json`, () => listQuestions(db, lesson));
  addJson(zip, `${folder}/mails.json`, () => listMails(db, lesson.teacher_id, lesson));
  addJson(zip, `${folder}/watched.json`, () => work.do('gatherInsight', lesson.teacher_id, { lesson: lesson.id }));
  const takes = await db<TakeRow>('takes').where({ lesson_id: lesson.id }).orderBy('started_at');
  for (const { id, sound_asset, marks_asset, ended_at } of takes) {
    const take = `${folder}/takes/${id}`;
    if (sound_asset) addAsset(db, zip, `${take}/sound.ogg`, sound_asset);
    if (marks_asset) addAsset(db, zip, `${take}/marks.bin`, marks_asset);
    if (ended_at) continue;
    // It has not ended yet, or broke off: what has come of it is there in parts.
    const parts = await db<TakePartRow>('take_parts').where({ take_id: id }).orderBy('n').select('n');
    for (const { n } of parts) {
      const bytesOf = async () => (await db<TakePartRow>('take_parts').where({ take_id: id, n }).first())?.bytes ?? '';
      addStream(zip, `${take}/parts/${String(n).padStart(6, '0')}.bin`, () => Readable.from(eventually(bytesOf)));
    }
  }
  const files = await db<LessonAssetRow>('lesson_assets').where({ lesson_id: lesson.id });
  for (const file of files) addAsset(db, zip, `${folder}/files/${fileName(file)}`, file.asset_id);
}

async function* eventually<Value>(value: () => Promise<Value>): AsyncGenerator<Value> {
  yield await value();
}

const addJson = (zip: ZipFile, path: string, value: () => Promise<unknown>) =>
  addStream(zip, path, () => Readable.from(eventually(async () => JSON.stringify(await value(), null, 1))), true);

const addAsset = (db: Knex, zip: ZipFile, path: string, asset: AssetId) =>
  addStream(zip, path, () => Readable.from(chunksOf(db, asset)));

/** Sound and pictures are compressed as they are. What is read is read when its turn has come. */
function addStream(zip: ZipFile, path: string, open: () => Readable, compress = false): void {
  zip.addReadStreamLazy(path, { compress }, (use) => use(null, open()));
}

/** Two files of a lesson may have the same name, but not the same bytes. */
const fileName = ({ asset_id, file_name }: { asset_id: AssetId; file_name: string }) =>
  `${asset_id.slice(0, 12)} ${inFileName(file_name)}`;

/** What any system takes as a part of a file's name. */
const inFileName = (text: string) => text.replace(/[^\p{L}\p{N} ._-]/gu, '_').slice(0, 80);
