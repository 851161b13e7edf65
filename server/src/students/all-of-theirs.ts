import { addLesson } from '../archives/archive';
import { inFileName } from '../archives/lesson-files';
import { ArchivePlan } from '../archives/plan';
import type { ClassRow, HandInRow, LessonRow, ReplyRow, StudentRow, TaskRow } from '../database/rows';
import type { Request, Response } from 'express';
import type { Ground } from '../http/route';
import { aboutOf } from '../tasks/about';
import { markingOf } from '../tasks/hand-ins';

/**
 * Sends all that is kept of a student as an archive (see `docs/formats.md`): their name, what they were asked, what they made, handed in
 * and got back, each work as a lesson that can be brought in elsewhere.
 */
export function sendAllOf(
  { db, work, request, response }: Ground & { request: Request; response: Response },
  { id, name, class_id, made_at }: StudentRow,
): Promise<void> {
  return ArchivePlan.send({ db, request, response }, `${inFileName(name)}, all work.zip`, async (archive) => {
    const works: object[] = [];
    const schoolClass = (await db<ClassRow>('classes').where({ id: class_id }).first())!;
    const folderOf = async (lesson: LessonRow['id']) =>
      addLesson({ db, work }, archive, (await db<LessonRow>('lessons').where({ id: lesson }).first())!);
    for (const reply of await db<ReplyRow>('replies').where({ student_id: id }).orderBy('begun_at')) {
      const task = reply.task_id && (await db<TaskRow>('tasks').where({ id: reply.task_id }).first());
      const handIns = await db<HandInRow>('hand_ins').where({ reply_id: reply.id }).orderBy('handed_at');
      const about = task ? aboutOf(task) : null;
      works.push({
        task: about,
        begunAt: reply.begun_at,
        choice: reply.choice,
        work: await folderOf(reply.lesson_id),
        handedIn: await Promise.all(
          handIns.map(async (row) => ({
            work: await folderOf(row.lesson_id),
            handedAt: row.handed_at,
            takenBackAt: row.taken_back_at,
            ...markingOf(row.marking, about),
            givenAt: row.given_at,
            seenAt: row.seen_at,
            answer: row.answer,
          })),
        ),
      });
    }
    await archive.writeJson('student.json', { name, schoolClass: schoolClass.name, since: made_at, works });
  });
}
