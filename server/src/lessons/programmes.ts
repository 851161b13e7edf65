import type { Programme } from '@kite-trail/core/trail/programme';
import { programmeLength, segmentLength } from '@kite-trail/core/trail/programme';
import type { Knex } from 'knex';
import type { LessonRow, ProgrammeRow, TakeRow } from '../database/rows';
import { badInput, conflict } from '../http/problem';

/** The programme in force; empty before the first take. */
export async function currentProgramme(db: Knex, lesson: LessonRow): Promise<Programme> {
  const row = await db<ProgrammeRow>('programmes').where({ lesson_id: lesson.id, n: lesson.programme_n }).first();
  return row ? JSON.parse(row.segments) : [];
}

/**
 * Puts a new programme in force. Those that were undone are given up, as in any editor.
 * @throws RequestProblem when it plays more of a take than there is
 */
export async function editProgramme(db: Knex, lesson: LessonRow, programme: Programme): Promise<void> {
  const takes = await db<TakeRow>('takes').where({ lesson_id: lesson.id }).whereNotNull('ended_at');
  for (const segment of programme) {
    const voice = segment.voice && {
      take: segment.voice.take,
      toSamples: segment.voice.fromSamples + segmentLength(segment),
    };
    for (const played of voice ? [segment, voice] : [segment]) {
      const take = takes.find((one) => one.id === played.take);
      if (!take || played.toSamples > Number(take.length_samples)) {
        throw badInput('This edit plays something that was never recorded. Open the lesson again to go on.');
      }
    }
  }
  await db.transaction(async (trx) => {
    const n = lesson.programme_n + 1;
    await trx('programmes').where({ lesson_id: lesson.id }).where('n', '>=', n).delete();
    await trx('programmes').insert({
      lesson_id: lesson.id,
      n,
      segments: JSON.stringify(programme),
      length_samples: programmeLength(programme),
      made_at: new Date().toISOString(),
    });
    await goTo(trx, lesson, n);
  });
}

/** Goes one edit back or on. @throws RequestProblem when there is none */
export async function stepEdits(db: Knex, lesson: LessonRow, step: -1 | 1): Promise<void> {
  const n = lesson.programme_n + step;
  if (!(await db('programmes').where({ lesson_id: lesson.id, n }).first())) {
    throw conflict('no-more-edits', step < 0 ? 'There is no edit to undo.' : 'There is no edit to redo.');
  }
  await goTo(db, lesson, n);
}

async function goTo(db: Knex, lesson: LessonRow, n: number): Promise<void> {
  const moved = await db('lessons')
    .where({ id: lesson.id, programme_n: lesson.programme_n })
    .update({ programme_n: n, changed_at: new Date().toISOString() });
  if (moved === 0) {
    throw conflict('changed-elsewhere', 'This lesson was changed in another window. Open it again to go on.');
  }
}
