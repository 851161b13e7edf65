import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ClassRow, LessonRow, StudentRow, TaskRow, TeacherRow } from '@kite-trail/server/database/rows';
import { InkPoints } from '@kite-trail/core/ink/points';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { newStroke } from '@kite-trail/core/lesson/piece';
import { openBrowser, Person } from '@kite-trail/e2e/support/browser';
import { School } from '@kite-trail/e2e/support/school';
import { addTeacher } from '@kite-trail/server/accounts/accounts';
import { makeClass } from '@kite-trail/server/classes/classes';
import { openDatabase } from '@kite-trail/server/database/open';
import { inTransaction } from '@kite-trail/server/database/transaction';
import { gatherPages } from '@kite-trail/server/lessons/copy';
import { gatherForOthers } from '@kite-trail/server/lessons/duplicate';
import { makeLesson, writtenPage } from '@kite-trail/server/lessons/lessons';
import { addStudents } from '@kite-trail/server/students/students';
import { handIn } from '@kite-trail/server/tasks/hand-ins';
import { beginReply } from '@kite-trail/server/tasks/replies';
import { giveOut } from '@kite-trail/server/tasks/tasks';
import type { Knex } from 'knex';
import { p95, rounded } from './figures';

const REPLIES = 100;
const STROKES = 60;
const TIMES = 8;
const TEACHER = { name: 'Runa Holm', email: 'runa@bench.example', password: 'mooring-lines-77' };

/** How long a teacher waits for the table of a hundred replies, and for the small pictures of those that are in sight. */
export async function benchMarking(): Promise<Record<string, number>> {
  const folder = mkdtempSync(join(tmpdir(), 'kite-trail-marking-'));
  const file = join(folder, 'kite-trail.sqlite');
  const db = await openDatabase(file);
  const schoolClass = await inTransaction(db, fill);
  await db.destroy();
  const school = await School.start('demo', { DEMO_DATABASE: file });
  const browser = await openBrowser();
  const teacher = await Person.at(browser, school.url);
  await teacher.signIn(TEACHER.email, TEACHER.password);
  await teacher.page.goto(`${school.url}/class/${schoolClass}/tasks`);
  await teacher.sees(`${REPLIES} of ${REPLIES} handed in`);
  const [tablesMs, picturesMs]: [number[], number[]] = [[], []];
  for (let n = 0; n < TIMES; n++) {
    const [tableMs, pictureMs] = await teacher.run(async (count) => {
      const fromMs = performance.now();
      document.querySelector<HTMLElement>('a.task')!.click();
      const frame = () => new Promise(requestAnimationFrame);
      while (document.querySelectorAll('.tile').length < count) await frame();
      const shownMs = performance.now() - fromMs;
      const inSight = [...document.querySelectorAll<HTMLImageElement>('.tile img')].filter(
        (image) => image.getBoundingClientRect().top < innerHeight,
      );
      while (!inSight.every(({ complete, naturalWidth }) => complete && naturalWidth > 0)) await frame();
      return [shownMs, performance.now() - fromMs];
    }, REPLIES);
    tablesMs.push(tableMs);
    picturesMs.push(pictureMs);
    await teacher.page.goBack();
    await teacher.sees(`${REPLIES} of ${REPLIES} handed in`);
  }
  await browser.close();
  await school.close();
  rmSync(folder, { recursive: true });
  return {
    marking_100_replies_ms: rounded(p95(tablesMs), 1),
    marking_pictures_in_sight_ms: rounded(p95(picturesMs), 1),
  };
}

async function fill(db: Knex): Promise<ClassRow['id']> {
  const teacher: TeacherRow = await addTeacher(db, { ...TEACHER, isKeeper: true });
  const id = await makeClass(db, teacher.id, { name: 'Crew', color: 'sea' });
  const schoolClass = (await db<ClassRow>('classes').where({ id }).first())!;
  await addStudents(
    db,
    schoolClass,
    Array.from({ length: REPLIES }, (_, n) => `Hand ${n}`),
  );
  const pieces = Array.from({ length: STROKES }, (_, n) =>
    newStroke({
      id: `stroke-${n}` as PieceId,
      z: n,
      pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
      points: InkPoints.from(
        Array.from({ length: 60 }, (_, i) => ({
          xPt: 20 + ((n * 37) % 800) + i,
          yPt: 30 + ((n * 53) % 460) + 12 * Math.sin(i / 5),
          pressure: 0.5,
          sinceMs: 4 * i,
        })),
      ),
    }),
  );
  const page = wideSquaredPage('page-of-task' as PageId);
  const lesson = await makeLesson(db, teacher.id, 'The leading line', [writtenPage({ page, pieces })]);
  const about = {
    ...{ title: lesson.title, question: 'Which marks?', dueAt: null, takesLate: true, allows: [], criteria: [] },
    ...{ instruction: null, example: null, choices: [], isLive: false, isOpen: false },
  };
  const asked = { ...about, schoolClass: id, page: null, pieces: null };
  const taskId = await giveOut(db, teacher, lesson, asked, await gatherPages(db, { lesson: lesson.id }));
  const task = (await db<TaskRow>('tasks').where({ id: taskId }).first())!;
  for (const student of await db<StudentRow>('students')) {
    const reply = await beginReply(db, student, task);
    const work = (await db<LessonRow>('lessons').where({ id: reply.lesson_id }).first())!;
    await handIn(db, student, reply, work, new Date().toISOString(), await gatherForOthers(db, { lesson: work.id }));
  }
  return id;
}
