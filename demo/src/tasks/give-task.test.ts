import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { MarkingTable } from '@kite-trail/core/contract/task';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import type { TaskRow } from '@kite-trail/server/database/rows';
import { openDatabase } from '@kite-trail/server/database/open';
import { markingTable } from '@kite-trail/server/tasks/marking-table';
import { expect, it } from 'vitest';
import { loadDemo } from '../load';
import { giveTask } from './give-task';

it('gives the youngest class a task, of which some came in, some late, and some went back', async () => {
  const db = await openDatabase(join(mkdtempSync(join(tmpdir(), 'kite-trail-task-')), 'kite-trail.sqlite'));
  await loadDemo(db);
  await giveTask(db);
  const { rows, task }: MarkingTable = await markingTable(db, (await db<TaskRow>('tasks').first())!);
  expect([task.students, task.handedIn, task.givenBack]).toEqual([9, 6, 2]);
  const stands = rows.map(({ student, reply }) => {
    if (!reply?.handIn) return [student.name, reply ? 'begun' : 'missing'];
    const { isLate, lengthSamples, givenAt, seenAt } = reply.handIn;
    return [student.name, isLate, samplesToSeconds(lengthSamples) > 5, givenAt !== null, seenAt !== null];
  });
  expect(stands).toEqual([
    ['Ida', false, true, true, true],
    ['Jonas', false, false, true, false],
    ['Liv', false, false, false, false],
    ['Maja', false, false, false, false],
    ['Nils', 'missing'],
    ['Ole', false, true, false, false],
    ['Runa', true, false, false, false],
    ['Sigrid', 'begun'],
    ['Tove', 'missing'],
  ]);
  await db.destroy();
}, 60_000);
