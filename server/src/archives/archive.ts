import type { LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { LessonRow } from '../database/rows';
import type { Ground } from '../http/route';
import { writtenBytes } from '../lessons/lessons';
import { workedOnBy } from '../together/worked-on';
import { inFileName } from './lesson-files';
import type { ArchivePlan } from './plan';

/** For whoever opens an archive without us. */
const READ_ME = `This is an archive of lessons from Kite Trail.

Each lesson has a folder. In it are its recordings (sound.ogg is Opus), the files it was given, its ink as InkML, its captions
and chapters as WebVTT, and a picture of it. lesson.json says how all of this belongs together, manifest.json what is in the
archive, with the SHA-256 of every file.

To have the lessons back in Kite Trail, drop this file on Home, on any school's server.
`;

/** Puts a lesson into an archive. @returns its folder there */
export async function addLesson({ db, work }: Ground, archive: ArchivePlan, lesson: LessonRow): Promise<string> {
  if (archive.lessons.length === 0) await archive.write('READ ME.txt', Buffer.from(READ_ME));
  const { id, teacher_id } = lesson;
  const filed = await work.do('fileLesson', teacher_id, { lesson: id }, await writtenBytes(db, id));
  const folder = `lessons/${inFileName(filed.title)} ${id}`;
  archive.lessons.push({ id, title: filed.title, path: folder });
  for (const { path, bytes } of filed.written) await archive.write(`${folder}/${path}`, bytes);
  for (const { path, asset, sizeBytes } of filed.kept) archive.add(`${folder}/${path}`, asset, sizeBytes);
  return folder;
}

/** Puts lessons into an archive, of those that were asked for the ones a teacher works on. */
export async function addLessons(
  at: Ground,
  archive: ArchivePlan,
  teacher: TeacherId,
  asked: readonly LessonId[],
): Promise<void> {
  for (const id of new Set(asked)) {
    const lesson = await workedOnBy(at.db<LessonRow>('lessons').where({ id }), teacher).first();
    if (lesson) await addLesson(at, archive, lesson);
  }
}

/** What an archive is called. */
export const archiveName = (title: string): string => `${inFileName(title)}, archive.zip`;
