import { expect, it } from 'vitest';
import { sharedLesson, testSchool } from '../testing';
import * as newest from './eighteenth-migration';
import type { DriveAccountRow, TeacherRow } from './rows';

const { school, call } = testSchool();

it('the newest migration can be taken back and made again, and keeps what was there', async () => {
  const { id } = await sharedLesson(call, { title: 'Tides' }, { take: 'take-of-migrations', seconds: 4 });
  const { db } = school.server;
  const { id: teacher_id } = (await db<TeacherRow>('teachers').first())!;
  const account = { teacher_id, drive: 'boats', user_name: 'marit', sealed_password: Buffer.from('x'), since: '2026' };
  await db('drive_accounts').insert(account satisfies DriveAccountRow);
  await db.transaction(async (trx) => {
    await newest.down(trx);
    await newest.up(trx);
  });
  expect(await db('drive_accounts')).toEqual([]);
  await db('drive_accounts').insert(account);
  expect(await db('lessons').select('id')).toEqual([{ id }]);
});
