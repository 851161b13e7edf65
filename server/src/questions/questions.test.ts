import type { LessonDocument, LessonSummary } from '@kite-trail/core/contract/lesson';
import { USUAL_LINK } from '@kite-trail/core/contract/link';
import type { Question } from '@kite-trail/core/contract/question';
import type { Watch } from '@kite-trail/core/contract/watch';
import { decodePieces } from '@kite-trail/core/formats/marks-coding';
import { InkPoints } from '@kite-trail/core/ink/points';
import type { LessonId, PageId, PieceId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { newStroke } from '@kite-trail/core/lesson/piece';
import { cut } from '@kite-trail/core/trail/edit';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { createCanvas } from '@napi-rs/canvas';
import { beforeEach, describe, expect, it } from 'vitest';
import { addFile, assetIdOf, json, messageOf, part, sharedLesson, testSchool, trimBody, type Caller } from '../testing';

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
    {
      ...{ id: 'second'.padEnd(21, '-'), atSamples: secondsToSamples(6) },
      ...{ question: 'And the moon?', answer: 'It pulls.', recording: null },
    },
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

const inkAt = (page: PageId, id: string, seconds: number): Mark => {
  const stroke = newStroke({
    id: id as PieceId,
    z: 1,
    pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
    points: InkPoints.from([{ xPt: 10, yPt: 10, pressure: 0.5, sinceMs: 0 }]),
  });
  return { kind: 'ink', page, stroke, atSamples: secondsToSamples(seconds) };
};

describe('an answer that is recorded', () => {
  const record = (id: string, who = call, of = lesson) =>
    who('POST', `/lessons/${of.id}/questions/${id.padEnd(21, '-')}/recording`);
  const begin = async (id: string) => (await json<{ lesson: LessonId }>(record(id))).lesson;
  const open = (id: LessonId) => json<LessonDocument>(call('GET', `/lessons/${id}`));
  const waiting = async () =>
    (await json<LessonSummary[]>(call('GET', '/lessons'))).find(({ id }) => id === lesson.id)!.openQuestions;

  async function speak(id: LessonId): Promise<string> {
    const take = `take-of-answers-${made++}`;
    await call('POST', `/lessons/${id}/takes`, { id: take, hasSound: true });
    await call('PUT', `/takes/${take}/parts/0`, part(secondsToSamples(3)));
    await call('POST', `/takes/${take}/end`, { parts: 1 });
    return (await json<LessonDocument>(call('POST', `/lessons/${id}/publications/1`))).link!.token;
  }

  it('stands beside its question while it is shared', async () => {
    await allow(true);
    await ask('spoken', 4, 'How is  it\ntied?');
    const begun = await begin('spoken');
    expect((await open(begun)).title).toBe('Answer: How is it tied?');
    // Whoever presses again goes on with it.
    expect(await begin('spoken')).toBe(begun);
    expect([await waiting(), (await watching()).questions]).toEqual([1, []]);
    expect((await listed())[0].recording).toEqual({ lesson: begun, token: null });
    const answering = await speak(begun);
    expect([await waiting(), (await listed())[0].recording?.token]).toEqual([0, answering]);
    expect((await watching()).questions).toMatchObject([{ answer: null, recording: answering }]);
    expect((await student('GET', `/watch/${answering}`)).status).toBe(200);
    await answer('spoken', 'Twice around.');
    expect((await watching()).questions).toMatchObject([{ answer: 'Twice around.', recording: answering }]);
    await answer('spoken', '');
    // Withdrawn, or in the bin, it waits again.
    await call('POST', '/binning', { lessons: [begun], isBinned: true });
    expect([await waiting(), (await watching()).questions]).toEqual([1, []]);
    await call('POST', '/binning', { lessons: [begun], isBinned: false });
    expect(await waiting()).toBe(0);
    await call('DELETE', `/lessons/${begun}/links/${answering}`);
    expect([await waiting(), (await watching()).questions]).toEqual([1, []]);
    // What has gone for good is begun anew.
    await call('POST', '/binning', { lessons: [begun], isBinned: true });
    expect(await begin('spoken')).not.toBe(begun);
    await call('DELETE', `/lessons/${begun}`);
    expect((await listed())[0].recording?.lesson).not.toBe(begun);
  });

  it('begins on the page of its moment, as it was then, with what lies on it', async () => {
    await allow(true);
    const png = createCanvas(8, 8).toBuffer('image/png');
    await addFile(call, lesson.id, png, 'knot.png');
    await addFile(call, lesson.id, Buffer.from('%PDF-1.7'), 'elsewhere.pdf');
    const first = lesson.pages[0].page;
    const second = { ...first, id: 'page-second' as PageId, paper: { ...first.paper, picture: assetIdOf(png) } };
    const take = `take-of-answers-${made++}`;
    const marks: Mark[] = [
      { kind: 'add-page', atSamples: secondsToSamples(1), page: second, after: first.id },
      { kind: 'turn', atSamples: secondsToSamples(2), page: second.id },
      inkAt(second.id, 'early', 3),
      inkAt(second.id, 'later', 6),
    ];
    await call('POST', `/lessons/${lesson.id}/takes`, { id: take, hasSound: true, plan: { kind: 'carry-on' } });
    await call('PUT', `/takes/${take}/parts/0`, part(secondsToSamples(10), { marks }));
    const { edit } = await json<LessonDocument>(call('POST', `/takes/${take}/end`, { parts: 1 }));
    await call('POST', `/lessons/${lesson.id}/publications/${edit.n}`);
    await ask('there', 15, 'Which end?');
    const answering = await open(await begin('there'));
    expect(
      answering.pages.map(({ page, pieces }) => [
        page.id,
        decodePieces(Buffer.from(pieces, 'base64')).map(({ id }) => id),
      ]),
    ).toEqual([['page-second', ['early']]]);
    expect(await school.server.db('lesson_assets').where({ lesson_id: answering.id }).pluck('file_name')).toEqual([
      'knot.png',
    ]);
    // Where its moment has been cut out, it begins with the first page.
    const now = await open(lesson.id);
    await call('PUT', `/lessons/${lesson.id}/edition`, trimBody(now, 0, secondsToSamples(10)));
    await ask('gone', 3, 'And this?');
    await call(
      'PUT',
      `/lessons/${lesson.id}/edition`,
      trimBody(await open(lesson.id), secondsToSamples(5), secondsToSamples(9)),
    );
    expect((await open(await begin('gone'))).pages.map(({ page }) => page.id)).toEqual([first.id]);
  });

  it('is called by its question, cut between letters', async () => {
    await allow(true);
    await ask('long', 4, `x${'\u{1f6f6}'.repeat(200)}`);
    const { title } = await open(await begin('long'));
    expect(title).toBe(`Answer: x${'\u{1f6f6}'.repeat(55)}`);
  });

  it('is worked on by all who work on the lesson, and begun by nobody else', async () => {
    await allow(true);
    await ask('shared', 4, 'Why?');
    const email = `colleague-${made}@example.org`;
    const colleague = await school.server.signedIn(email);
    expect((await record('shared', colleague)).status).toBe(404);
    expect((await record('shared', student)).status).toBe(401);
    expect((await record('nothing')).status).toBe(404);
    const { id } = (await school.server.db('teachers').where({ email }).first())!;
    await call('PUT', `/lessons/${lesson.id}/colleagues`, { colleagues: [id] });
    const { lesson: begun } = await json<{ lesson: LessonId }>(record('shared', colleague));
    expect(await begin('shared')).toBe(begun);
    expect((await open(begun)).title).toBe('Answer: Why?');
  });
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
