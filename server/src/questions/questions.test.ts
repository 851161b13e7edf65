import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { USUAL_LINK } from '@kite-trail/core/contract/link';
import type { Question } from '@kite-trail/core/contract/question';
import type { Watch } from '@kite-trail/core/contract/watch';
import { cut } from '@kite-trail/core/trail/edit';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { beforeEach, expect, it } from 'vitest';
import { json, messageOf, sharedLesson, testSchool, type Caller } from '../testing';

const { school, call } = testSchool();
const student: Caller = (...what) => school.server.caller()(...what);
let lesson: LessonDocument;
let token: string;
let made = 0;
beforeEach(async () => {
  lesson = await sharedLesson(call, { title: 'Tides' }, { take: `take-of-questions-${made++}`, seconds: 10 });
  token = lesson.link!.token;
});

const watching = () => json<Watch>(student('GET', `/watch/${token}`));
const allow = (questions: boolean) =>
  call('PUT', `/lessons/${lesson.id}/links/${token}`, {
    settings: { ...USUAL_LINK, name: 'For the crew', allows: { ...USUAL_LINK.allows, questions } },
  });
async function ask(id: string, seconds: number, question: string) {
  const { publication } = await watching();
  const body = { id: id.padEnd(21, '-'), atSamples: secondsToSamples(seconds), question };
  return student('POST', `/watch/${token}/publications/${publication}/questions`, body);
}
const listed = () => json<Question[]>(call('GET', `/lessons/${lesson.id}/questions`));
const answer = (id: string, said: string) =>
  call('PUT', `/lessons/${lesson.id}/questions/${id.padEnd(21, '-')}`, { answer: said });

it('are asked where the link allows it, answered by the teacher, and read by all at their moment', async () => {
  expect((await watching()).mayAsk).toBe(false);
  const early = await ask('early', 2, 'Why twice a day?');
  expect([early.status, await messageOf(early)]).toEqual([403, expect.stringMatching(/cannot be left/)]);
  await allow(true);
  expect((await watching()).mayAsk).toBe(true);
  expect((await ask('first', 2, ' Why twice a day? ')).status).toBe(204);
  await ask('first', 2, 'Why twice a day?');
  await ask('second', 6, 'And the moon?');
  expect((await watching()).questions).toEqual([]);
  expect(await listed()).toMatchObject([
    { question: 'And the moon?', answer: null, link: 'For the crew', schoolClass: null },
    { question: 'Why twice a day?', moment: { atSamples: secondsToSamples(2) } },
  ]);
  const after = await json<Question[]>(answer('second', 'It pulls.'));
  expect(after.map(({ answer: said }) => said)).toEqual([null, 'It pulls.']);
  expect((await watching()).questions).toEqual([
    { id: 'second'.padEnd(21, '-'), atSamples: secondsToSamples(6), question: 'And the moon?', answer: 'It pulls.' },
  ]);
});

it('stay with what they are about when the lesson is edited', async () => {
  await allow(true);
  await ask('moved', 6, 'How high?');
  await answer('moved', 'Four metres.');
  const programme = cut(lesson.edition.programme, { fromSamples: 0, toSamples: secondsToSamples(4) }, 'keep');
  await call('PUT', `/lessons/${lesson.id}/edition`, { from: lesson.edit, edition: { ...lesson.edition, programme } });
  await call('POST', `/lessons/${lesson.id}/publications/2`);
  expect((await watching()).questions.map(({ atSamples }) => atSamples)).toEqual([secondsToSamples(2)]);
});

it('may be asked at the very end, too', async () => {
  await allow(true);
  await ask('late', 10, 'And then?');
  await answer('late', 'Then we are in.');
  expect((await watching()).questions.map(({ atSamples }) => atSamples)).toEqual([secondsToSamples(10)]);
});

it('can have their answer taken back, and be deleted, by their teacher alone', async () => {
  await allow(true);
  await ask('gone', 1, 'Is this on?');
  await answer('gone', 'Yes.');
  await answer('gone', ' ');
  expect((await listed())[0].answer).toBe(null);
  const other = await school.server.signedIn(`other-${made}@example.org`);
  const mine = await sharedLesson(other, { title: 'Mine' }, { take: `take-of-questions-${made++}`, seconds: 4 });
  const id = 'gone'.padEnd(21, '-');
  expect((await other('DELETE', `/lessons/${mine.id}/questions/${id}`)).status).toBe(404);
  expect((await other('PUT', `/lessons/${mine.id}/questions/${id}`, { answer: 'No.' })).status).toBe(404);
  expect(await json(call('DELETE', `/lessons/${lesson.id}/questions/${id}`))).toEqual([]);
  expect((await call('DELETE', `/lessons/${lesson.id}/questions/${id}`)).status).toBe(404);
});

it('are bounded: in their length, and in how many wait', async () => {
  await allow(true);
  expect((await ask('long', 1, 'x'.repeat(501))).status).toBe(400);
  expect((await ask('empty', 1, '  ')).status).toBe(400);
  const row = { lesson_id: lesson.id, token, take_id: 'take', take_samples: 0, question: 'Why?', asked_at: '2026' };
  for (let i = 0; i < 300; i++) await school.server.db('questions').insert({ ...row, id: `q${i}` });
  const late = await ask('late', 1, 'Anybody?');
  expect([late.status, await messageOf(late)]).toEqual([409, expect.stringMatching(/Many questions wait/)]);
  expect(await listed()).toHaveLength(300);
});
