import { encodeTakePart } from '@kite-trail/core/formats/take-part';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import { NOTHING_HEARD } from '@kite-trail/core/sound/profile';
import { addTeacher, hasTeachers } from '@kite-trail/server/accounts/accounts';
import { inTransaction } from '@kite-trail/server/database/transaction';
import type { LessonRow, TakeRow } from '@kite-trail/server/database/rows';
import { makeLesson, writtenPage } from '@kite-trail/server/lessons/lessons';
import { gatherTake } from '@kite-trail/server/takes/gather';
import { beginTake, endTake, keepPart } from '@kite-trail/server/takes/takes';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import { recordedTake, type RecordedTake } from './record';
import { SchoolYear } from './school-year';
import { FIRST_TERM, SECOND_TERM } from './teaching/all';
import { keepPictureLesson, keepWorksheetLesson } from './teaching/on-files';
import { preparedPages, type Script } from './teaching/script';
import { DEMO_COLLEAGUE, DEMO_TEACHER } from './teachers';
import { tidyUp } from './tidy-up';

/** Loads the demo's teacher and lessons into an empty database. @returns false when somebody is there already */
export const loadDemo = (db: Knex): Promise<boolean> => inTransaction(db, load);

async function load(db: Knex): Promise<boolean> {
  if (await hasTeachers(db)) return false;
  const teacher = await addTeacher(db, { ...DEMO_TEACHER, isKeeper: true });
  await addTeacher(db, DEMO_COLLEAGUE);
  const year = await SchoolYear.begin(db, teacher.id);
  await year.teach(await keepPictureLesson(db, teacher.id), 'Day skippers');
  await year.teach(await keepWorksheetLesson(db, teacher.id), 'Day skippers');
  for (const script of FIRST_TERM) await teach(db, year, script);
  return true;
}

/** Adds more lessons to the demo's: what a school has after a while. */
export const loadSecondTerm = (db: Knex): Promise<void> =>
  inTransaction(db, async (trx) => {
    const year = await SchoolYear.goingOn(trx);
    for (const script of SECOND_TERM) await teach(trx, year, script);
  });

async function teach(db: Knex, year: SchoolYear, script: Script): Promise<void> {
  const lesson = await makeLesson(db, year.teacher, script.title, preparedPages(script).map(writtenPage));
  await year.teach(lesson, script.taughtTo);
  if (script.beats.length === 0) return;
  const take = await keepRecording(db, lesson, recordedTake(script));
  if (script.tidied) await tidyUp(db, lesson, take, script, script.tidied);
}

/** Hands a take over just as a recording browser does. */
export async function keepRecording(db: Knex, lesson: LessonRow, recorded: RecordedTake): Promise<TakeId> {
  const { marks, sound, lengthSamples, heard = NOTHING_HEARD } = recorded;
  const id = nanoid(16) as TakeId;
  await beginTake(db, lesson, '', { id, hasSound: true, plan: { kind: 'carry-on' } });
  const take = (await db<TakeRow>('takes').where({ id }).first())!;
  const part = encodeTakePart({ marks, unfinished: [], toSamples: lengthSamples, sound, heard });
  await keepPart(db, take, 0, Buffer.from(part));
  const gathered = await gatherTake(db, { take: id, isWhole: true });
  await endTake(db, lesson, take, { parts: 1, recover: false }, gathered);
  return id;
}
