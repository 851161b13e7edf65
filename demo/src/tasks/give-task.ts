import type { StudentId } from '@kite-trail/core/lesson/ids';
import { NO_HISTORY, encodeHistory } from '@kite-trail/core/formats/history-coding';
import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { newStroke } from '@kite-trail/core/lesson/piece';
import type {
  ClassRow,
  HandInRow,
  LessonRow,
  ReplyRow,
  StudentRow,
  TaskRow,
  TeacherRow,
} from '@kite-trail/server/database/rows';
import { inTransaction } from '@kite-trail/server/database/transaction';
import { changeLesson, foldChanges } from '@kite-trail/server/lessons/changes';
import { gatherPages } from '@kite-trail/server/lessons/copy';
import { gatherForOthers } from '@kite-trail/server/lessons/duplicate';
import { paintPages } from '@kite-trail/server/lessons/picture';
import { lessonOf, makeLesson, writtenPage } from '@kite-trail/server/lessons/lessons';
import { currentEdition } from '@kite-trail/server/lessons/editions';
import { addStudents } from '@kite-trail/server/students/students';
import { answer, giveBack, handIn, keepMarking, lyingOf, see } from '@kite-trail/server/tasks/hand-ins';
import { beginReply } from '@kite-trail/server/tasks/replies';
import { giveOut } from '@kite-trail/server/tasks/tasks';
import type { Knex } from 'knex';
import { keepRecording } from '../load';
import { SimulatedPen } from '../pen/simulated-pen';
import { recordedTake } from '../record';
import { publishAs, soundOfTake } from '../sharing/publish-as';
import { linkSoundOf } from '../sharing/sound';
import { addToClasses } from '@kite-trail/server/classes/classes';
import { preparedPages, type Writing } from '../teaching/script';
import { REPLIES, sheet, STUDENTS, TASK, type DemoReply } from './replies';

const HOUR_MS = 3600 * 1000;
const GIVEN_WIDTH_PX = 1600;
/** It was due this long ago. */
const DUE_HOURS_AGO = 26;

/** Gives the youngest class a task: some have handed in, some late, some got it back. */
export async function giveTask(db: Knex): Promise<void> {
  const schoolClass = (await db<ClassRow>('classes').where({ name: sheet.taughtTo }).first())!;
  const teacher = (await db<TeacherRow>('teachers').where({ id: schoolClass.teacher_id }).first())!;
  const dueMs = Date.now() - DUE_HOURS_AGO * HOUR_MS;
  const task = await inTransaction(db, async (trx) => {
    await addStudents(trx, schoolClass, STUDENTS);
    const lesson = await makeLesson(trx, teacher.id, sheet.title, preparedPages(sheet).map(writtenPage));
    await addToClasses(trx, lesson, [schoolClass.id]);
    const asked = {
      ...TASK,
      dueAt: new Date(dueMs).toISOString(),
      takesLate: true,
      allows: ['voice', 'text', 'pictures'] as const,
      ...{ instruction: null, example: null, choices: [], isLive: false, isOpen: false },
      ...{ schoolClass: schoolClass.id, page: null, pieces: null },
    };
    const id = await giveOut(
      trx,
      teacher,
      lesson,
      { ...asked, allows: [...asked.allows] },
      await gatherPages(trx, { lesson: lesson.id }),
    );
    await trx('tasks')
      .where({ id })
      .update({ made_at: new Date(dueMs - 96 * HOUR_MS).toISOString() });
    return id;
  });
  for (const one of REPLIES) await reply(db, (await db<TaskRow>('tasks').where({ id: task }).first())!, one, dueMs);
}

async function reply(db: Knex, task: TaskRow, one: DemoReply, dueMs: number): Promise<void> {
  const student = (await db<StudentRow>('students').where({ class_id: task.class_id, name: one.student }).first())!;
  const handed = await inTransaction(db, async (trx) => {
    const begun = await beginReply(trx, student, task);
    const lesson = await lessonOf(trx, begun.lesson_id);
    if (one.written.length > 0) await write(trx, lesson, one.written);
    if (one.recorded) await keepRecording(trx, lesson, recordedTake(one.recorded));
    return one.handedInHours === null ? null : hand(trx, student, begun, dueMs + one.handedInHours * HOUR_MS);
  });
  if (handed && one.feedback) await giveFeedback(db, handed, one.feedback);
}

/** Writes on the first page, as a student does. */
async function write(db: Knex, lesson: LessonRow, written: readonly Writing[]): Promise<void> {
  const hand = new SimulatedPen(lesson.id.length);
  const page = `${sheet.name}-page-1` as PageId;
  const marks = written.flatMap(({ pen, paths }, i) =>
    paths.map((path, n): Mark => {
      const id = `${lesson.id}-${i}-${n}` as PieceId;
      const points = hand.write(path).retimed(() => 0);
      return { kind: 'ink', atSamples: 0, page, stroke: newStroke({ id, z: 2000 + 100 * i + n, pen, points }) };
    }),
  );
  const body = { revision: lesson.revision, marks: encodeMarks(marks), history: encodeHistory(NO_HISTORY) };
  const asked = { lesson: lesson.id, window: '', body: asRequest(body) };
  await changeLesson(db, lesson.teacher_id, lesson, asked, await foldChanges(db, asked));
}

/** As a page sends it. */
const asRequest = ({ revision, marks, history }: { revision: number; marks: Uint8Array; history: Uint8Array }) =>
  Buffer.from(
    JSON.stringify({
      revision,
      marks: Buffer.from(marks).toString('base64'),
      history: Buffer.from(history).toString('base64'),
    }),
  );

async function hand(db: Knex, student: StudentRow, begun: ReplyRow, atMs: number): Promise<HandInRow> {
  const lesson = await lessonOf(db, begun.lesson_id);
  const saidAt = new Date().toISOString();
  await handIn(db, student, begun, lesson, saidAt, await gatherForOthers(db, { lesson: lesson.id }));
  const row = (await lyingOf(db, begun.id))!;
  const at = new Date(atMs).toISOString();
  await db('hand_ins').where({ id: row.id }).update({ handed_at: at });
  // It was made before, not now.
  await db('lessons').whereIn('id', [begun.lesson_id, row.lesson_id]).update({ changed_at: at });
  await db('students')
    .where({ id: student.id as StudentId })
    .update({ seen_at: at });
  return row;
}

async function giveFeedback(
  db: Knex,
  row: HandInRow,
  { points, note, spoken, isSeen, answer: said }: NonNullable<DemoReply['feedback']>,
): Promise<void> {
  if (spoken) {
    await inTransaction(db, async (trx) =>
      keepRecording(trx, await lessonOf(trx, row.lesson_id), recordedTake(spoken)),
    );
    const lesson = await lessonOf(db, row.lesson_id);
    const sound = await linkSoundOf(await currentEdition(db, lesson), (take) => soundOfTake(db, take));
    await inTransaction(db, (trx) => publishAs(trx, lesson, sound));
  }
  await inTransaction(db, async (trx) => {
    await keepMarking(trx, row, { points, note });
    const marked = (await trx<HandInRow>('hand_ins').where({ id: row.id }).first())!;
    await giveBack(trx, marked, await paintPages(trx, { lesson: row.lesson_id, widthPx: GIVEN_WIDTH_PX }));
    if (isSeen) await see(trx, row);
    if (said) await answer(trx, row, said);
  });
}
