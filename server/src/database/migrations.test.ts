import { expect, it } from 'vitest';
import { classWithStudents, sharedLesson, testSchool, usualTask } from '../testing';
import * as newest from './twentieth-migration';

const { school, call } = testSchool();

it('the newest migration can be taken back and made again, and keeps what was there', async () => {
  const { id } = await sharedLesson(call, { title: 'Tides' }, { take: 'take-of-migrations', seconds: 4 });
  const { db } = school.server;
  const { id: crew } = await classWithStudents(school.server, call, ['Ida']);
  const give = () => call('POST', `/lessons/${id}/tasks`, { ...usualTask, schoolClass: crew });
  expect((await give()).status).toBe(200);
  const KEPT = ['teachers', 'classes', 'takes', 'programmes', 'links', 'publications', 'assets'];
  const counts = () =>
    Promise.all(KEPT.map(async (table) => Number((await db(table).count({ count: '*' }).first())!.count)));
  const before = await counts();
  await db.transaction(async (trx) => {
    await newest.down(trx);
    await newest.up(trx);
  });
  expect(await counts()).toEqual(before);
  expect(await db('lessons').select('id')).toEqual([{ id }]);
  expect([await db('tasks'), await db('students')]).toEqual([[], []]);
  expect((await give()).status).toBe(200);
});
