import { expect, it } from 'vitest';
import { sharedLesson, testSchool } from '../testing';
import * as newest from './twentieth-migration';
import type { LivePageRow, TeacherRow } from './rows';

const { school, call } = testSchool();

it('the newest migration can be taken back and made again, and keeps what was there', async () => {
  const { id } = await sharedLesson(call, { title: 'Tides' }, { take: 'take-of-migrations', seconds: 4 });
  const { db } = school.server;
  const { id: teacher_id } = (await db<TeacherRow>('teachers').first())!;
  const page = { teacher_id, token: 't'.repeat(32), code: 'ABC234', lesson_id: id, key_hash: '', shown_at: '2026' };
  await db('live_pages').insert(page satisfies LivePageRow);
  await db.transaction(async (trx) => {
    await newest.down(trx);
    await newest.up(trx);
  });
  expect(await db('live_pages')).toEqual([]);
  await db('live_pages').insert(page);
  expect(await db('lessons').select('id')).toEqual([{ id }]);
});
