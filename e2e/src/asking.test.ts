import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { USUAL_LINK, type Link } from '@kite-trail/core/contract/link';
import type { Question } from '@kite-trail/core/contract/question';
import type { LessonDocument, LessonSummary } from '@kite-trail/core/contract/lesson';
import type { Insight } from '@kite-trail/core/contract/visit';
import type { Watch } from '@kite-trail/core/contract/watch';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import type { BrowserContext } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { piecesOn } from './support/lessons';
import { dragTo, secondsWatched } from './support/watching';
import { writeSpeech } from './support/wav';

const COMPASS = 'From chart to compass';
let classroom: Classroom;
let teacher: Person;
let elsewhere: BrowserContext;
let student: Person;
let lesson: string;
let token: string;

beforeAll(async () => {
  const microphone = join(mkdtempSync(join(tmpdir(), 'kite-trail-e2e-')), 'speech.wav');
  writeSpeech(microphone, 'volume=-6dB');
  classroom = await openClassroom({ microphone });
  teacher = classroom.teacher;
  elsewhere = await classroom.browser.createBrowserContext();
  const lessons = await teacher.request<LessonSummary[]>('GET', '/lessons');
  lesson = lessons.find(({ title }) => title === COMPASS)!.id;
});
afterAll(() => classroom?.close());

const seconds = () => secondsWatched(student);
const goTo = (at: number) => dragTo(student, at);

describe('a prompt', () => {
  it('is made where the playhead is, worded and answered', async () => {
    await teacher.page.goto(`${classroom.school.url}/lesson/${lesson}/trim?panel=prompts`);
    const playhead = await teacher.find('slider', 'Playhead');
    await playhead.focus();
    await teacher.page.keyboard.press('Home');
    await teacher.press('Ask at 0:00');
    // What it asks is there to be written over.
    await teacher.page.keyboard.type('Which way is north on this chart?');
    await teacher.fill('Your answer, if you want to show one', 'Up.');
    await playhead.focus();
    for (let i = 0; i < 5; i++) await teacher.page.keyboard.press('ArrowRight');
    await teacher.press('Move the prompt at 0:00 to the playhead');
    const prompts = async () =>
      (await teacher.request<LessonDocument>('GET', `/lessons/${lesson}`)).edition.prompts.map((one) => [
        one.question,
        one.answer,
        one.atSamples > 0,
      ]);
    await expect.poll(prompts).toEqual([['Which way is north on this chart?', 'Up.', true]]);
  });

  it('halts a student, keeps what they answer on their device, and goes on', async () => {
    const { edit } = await teacher.request<LessonDocument>('GET', `/lessons/${lesson}`);
    const { link } = await teacher.request<LessonDocument>('POST', `/lessons/${lesson}/publications/${edit.n}`);
    token = link!.token;
    student = await Person.at(elsewhere, `${classroom.school.url}/w/${token}`);
    const [{ atSamples }] = (await student.request<Watch>('GET', `/watch/${token}`)).prompts;
    await student.press('Play');
    await student.find('dialog', 'Which way is north on this chart?');
    await student.find('button', 'Play');
    expect(await seconds()).toBeCloseTo(atSamples / secondsToSamples(1), 1);
    // Whoever types a space does not go on.
    await student.fill('Your answer', 'To the top');
    await student.page.setViewport({ width: 360, height: 740 });
    await student.page.setViewport({ width: 1280, height: 800 });
    await student.press('Compare');
    await student.sees(/Your teacher’s answer\s+Up\./);
    await student.press('Go on');
    await expect.poll(seconds).toBeGreaterThan(atSamples / secondsToSamples(1) + 1);
    await student.press('Pause');

    await student.page.reload();
    await student.press('Questions');
    await student.sees('Which way is north on this chart?\nTo the top');
    // What was answered halts no more, and can be looked at again.
    await goTo(0);
    await student.press('Play');
    await expect.poll(seconds).toBeGreaterThan(atSamples / secondsToSamples(1) + 1);
    await student.press('Pause');
    await (await student.page.waitForSelector('.entry ::-p-text(Which way is north)'))!.click();
    expect(await student.valueOf('textbox', 'Your answer')).toBe('To the top');
    await student.press('Go on');
    await student.press('Pause');
    await student.press('Close the questions');
  });
});

describe('a question of a student’s', () => {
  it('is asked at a moment where the link allows it, waits, is answered, and stands there for all', async () => {
    await teacher.page.goto(`${classroom.school.url}/lesson/${lesson}/share`);
    await teacher.press('All links and their rules');
    await teacher.press('Rules of The lesson');
    await (await teacher.find('checkbox', 'Leave questions, and read those you answer')).click();
    await teacher.press('Keep');
    await teacher.isGone('button', 'Keep');
    const [{ settings }] = await teacher.request<Link[]>('GET', `/lessons/${lesson}/links`);
    expect(settings.allows).toEqual({ ...USUAL_LINK.allows, questions: true });

    await student.page.reload();
    await student.find('button', 'Play');
    await goTo(20);
    await student.press('Questions');
    await student.fill('Ask your teacher about 0:20', 'Why is the needle not straight?');
    await student.press('Send');
    await student.sees('It is sent');
    await student.sees('Why is the needle not straight?\nWaits for an answer.');

    await teacher.page.goto(classroom.school.url);
    await teacher.sees('1 question');
    await teacher.page.goto(`${classroom.school.url}/lesson/${lesson}/share`);
    await teacher.press('1 question waits');
    await teacher.fill('Your answer to: Why is the needle not straight?', 'It points to magnetic north.');
    // Nobody reads it before it is given; it outlives the dialog meanwhile.
    await teacher.page.reload();
    await teacher.press('1 question waits');
    await teacher.press('Answer');
    const answers = async () =>
      (await teacher.request<Question[]>('GET', `/lessons/${lesson}/questions`)).map(({ answer }) => answer);
    await expect.poll(answers).toEqual(['It points to magnetic north.']);

    const other = await Person.at(await classroom.browser.createBrowserContext(), `${classroom.school.url}/w/${token}`);
    await other.press('Questions');
    await other.sees('Why is the needle not straight?\nIt points to magnetic north.');
    await (await other.page.waitForSelector('.entry ::-p-text(Why is the needle)'))!.click();
    expect(await other.valueOf('slider', 'Where to play')).toBe(String(secondsToSamples(20)));
    await other.page.browserContext().close();
    await student.page.reload();
    await student.press('Questions');
    await student.sees('Why is the needle not straight?\nIt points to magnetic north.');
  });
});

describe('a question that is answered by a recording', () => {
  it('is answered on the page of its moment, and watched from beside it', async () => {
    await student.press('Close the questions');
    await goTo(40);
    await student.press('Questions');
    await student.fill('Ask your teacher about 0:40', 'How is it read?');
    await student.press('Send');
    await student.sees('How is it read?\nWaits for an answer.');

    await teacher.page.evaluate(() => localStorage.setItem('kite-trail-countdown', '0'));
    await teacher.page.goto(`${classroom.school.url}/lesson/${lesson}/share`);
    await teacher.press('1 question waits');
    await teacher.press('Record an answer: How is it read?');
    await teacher.press('Record this lesson');
    await teacher.find('button', 'Pause');
    expect(await piecesOn(teacher)).not.toEqual([]);
    await teacher.stroke([0.2, 0.7], [0.5, 0.75]);
    await teacher.press('Stop');
    await teacher.press('Share');
    await teacher.press('Make a watch link');
    await teacher.find('textbox', 'Watch link');
    await teacher.page.goto(`${classroom.school.url}/lesson/${lesson}/share`);
    await teacher.press('Questions');
    await teacher.find('button', 'Open the recorded answer: How is it read?');

    await student.page.reload();
    await student.press('Questions');
    await student.press('Watch your teacher’s answer', 'link');
    await student.find('heading', 'Answer: How is it read?');
    await student.press('Play');
    await expect.poll(seconds).toBeGreaterThan(0);
    await student.page.goBack();
    await student.find('heading', COMPASS);
  });
});

describe('how a lesson was watched', () => {
  it('is told to its teacher in sums, over the trail, and can be saved; switched off, nothing is counted', async () => {
    // A visit is told when its page goes.
    await student.page.close();
    const counted = () => teacher.request<Insight>('GET', `/lessons/${lesson}/insight`);
    await expect.poll(async () => (await counted()).links[0].visits).toBeGreaterThan(0);
    const [{ sums, days }] = (await counted()).links;
    expect(sums.heard[0]).toBeGreaterThan(0);
    expect(days).toHaveLength(1);
    await teacher.page.goto(`${classroom.school.url}/lesson/${lesson}/share`);
    await (await teacher.page.waitForSelector('button ::-p-text(Watched)'))!.click();
    await teacher.find('dialog', 'How it was watched');
    await teacher.sees(/0 of \d came to the end\./);
    await teacher.find('image', 'Visits from day to day');
    await teacher.page.waitForSelector('.apexcharts-bar-area');
    await (await teacher.find('switch', 'Count how this lesson is watched')).click();
    await expect.poll(async () => (await counted()).isCounted).toBe(false);
    expect((await teacher.request<Watch>('GET', `/watch/${token}`)).isCounted).toBe(false);
  });
});
