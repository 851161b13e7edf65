import { expect, it } from 'vitest';
import { sharedLesson, testSchool } from '../testing';
import * as newest from './seventeenth-migration';

const { school, call } = testSchool();

it('the newest migration can be taken back and made again, and keeps what was there', async () => {
  const { id, link } = await sharedLesson(call, { title: 'Tides' }, { take: 'take-of-migrations', seconds: 4 });
  const question = { id: 'q'.repeat(21), lesson_id: id, token: link!.token, take_id: 'take', take_samples: 0 };
  const { db } = school.server;
  await db('questions').insert({ ...question, question: 'Why?', asked_at: '2026', answer_lesson: id });
  await db.transaction(async (trx) => {
    await newest.down(trx);
    await newest.up(trx);
  });
  expect(await db('questions').select('id', 'question', 'answer_lesson')).toEqual([
    { id: question.id, question: 'Why?', answer_lesson: null },
  ]);
});
