import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DEMO_COLLEAGUE } from '@kite-trail/demo/teachers';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { colorAt, openLesson } from './support/lessons';
import { writeSpeech } from './support/wav';

const TWO = 'Knots, by two hands';
let classroom: Classroom;
let owner: Person;
let mate: Person;
let id: string;

beforeAll(async () => {
  const microphone = join(mkdtempSync(join(tmpdir(), 'kite-trail-e2e-')), 'speech.wav');
  writeSpeech(microphone, 'volume=-6dB');
  classroom = await openClassroom({ microphone });
  owner = classroom.teacher;
  mate = await Person.at(await classroom.browser.createBrowserContext(), classroom.school.url);
  await mate.signIn(DEMO_COLLEAGUE.email, DEMO_COLLEAGUE.password);
  ({ id } = await owner.request<{ id: string }>('POST', '/lessons', { title: TWO }));
  await owner.page.reload();
});
afterAll(() => classroom?.close());

const menuOf = (person: Person) => person.press(`What to do with ${TWO}`);
/** Whether a person sees ink at a place of the page. */
const seesInk = async (person: Person, u: number, v: number) => {
  const [red] = await colorAt(person, u, v);
  return red < 128;
};

describe('a lesson that two work on', () => {
  it('is chosen from its menu, and stands among the colleague’s, with whose it is', async () => {
    await menuOf(owner);
    await owner.pick('Work on it together');
    await (await owner.find('checkbox', DEMO_COLLEAGUE.name)).click();
    await owner.press('Keep');
    await owner.sees(`with ${DEMO_COLLEAGUE.name}`);
    await mate.page.reload();
    await mate.sees('Marit Skagen’s');
  });

  it('is written on by one, and the other sees it', async () => {
    await owner.page.goto(`${classroom.school.url}/lesson/${id}/prepare`);
    await owner.find('image', 'Page to write on');
    await mate.page.goto(`${classroom.school.url}/lesson/${id}/prepare`);
    await mate.find('image', 'Page to write on');
    await mate.page.keyboard.press('p');
    await mate.stroke([0.2, 0.2], [0.4, 0.3]);
    await expect.poll(() => seesInk(owner, 0.3, 0.25)).toBe(true);
    await owner.page.keyboard.press('p');
    await owner.stroke([0.6, 0.6], [0.7, 0.7]);
    await expect.poll(() => seesInk(mate, 0.65, 0.65)).toBe(true);
    // Neither undoes what the other has done, also once the lesson is opened anew.
    await owner.sees(/^Saved$/m);
    await mate.page.reload();
    await mate.find('image', 'Page to write on');
    await mate.page.keyboard.down('Control');
    await mate.page.keyboard.press('z');
    await mate.page.keyboard.up('Control');
    expect([await seesInk(mate, 0.3, 0.25), await seesInk(mate, 0.65, 0.65)]).toEqual([true, true]);
  });

  it('is recorded by one at a time, while the other looks on', async () => {
    await mate.page.evaluate(() => localStorage.setItem('kite-trail-countdown', '0'));
    await mate.page.goto(`${classroom.school.url}/lesson/${id}/record`);
    await mate.press('Record this lesson');
    await mate.find('button', 'Pause');
    await owner.sees('This lesson is being recorded in another window or on another device');
    await mate.stroke([0.2, 0.6], [0.4, 0.7]);
    await mate.press('Stop');
    await mate.isGone('button', 'Stop');
    await mate.sees(/^Saved$/m);
    await owner.find('image', 'Page to write on');
    expect((await openLesson(owner)).takes).toHaveLength(1);
  });

  it('is left by the colleague, who has it no more', async () => {
    await mate.page.goto(classroom.school.url);
    await menuOf(mate);
    await mate.pick('Work on it together');
    await mate.sees('You may write, record, trim and share it.');
    await mate.press('Leave it');
    await mate.press('Yes, leave it');
    await mate.isGone('button', `What to do with ${TWO}`);
    await mate.page.goto(`${classroom.school.url}/lesson/${id}/prepare`);
    await mate.sees('is not yours');
  });
});
