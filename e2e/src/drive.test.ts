import { mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { LessonSummary } from '@kite-trail/core/contract/lesson';
import { FULL_FOLDER } from '@kite-trail/demo/drive/stand-in';
import { DRIVE_USERS } from '@kite-trail/demo/teachers';
import type { HTTPRequest } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { savesInto, type Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { openElsewhere } from './support/lessons';

const COMPASS = 'From chart to compass';
const NAME = `${COMPASS}.wav`;
const [{ userName, password }] = DRIVE_USERS;
let classroom: Classroom;
let teacher: Person;
/** What lies on the drive. */
let folder: string;

beforeAll(async () => {
  classroom = await openClassroom();
  folder = join(classroom.school.folder, 'drive');
  for (const one of ['Films', FULL_FOLDER]) mkdirSync(join(folder, one));
  teacher = classroom.teacher;
  const lessons = await teacher.request<LessonSummary[]>('GET', '/lessons');
  const { id } = lessons.find(({ title }) => title === COMPASS)!;
  await teacher.page.goto(`${classroom.school.url}/lesson/${id}/share`);
  await openElsewhere(teacher);
  await teacher.choose('Kind of sound file', 'pcm-s16');
  await teacher.press('Make the sound file');
  await teacher.find('link', `Save ${NAME}`);
});
afterAll(() => classroom?.close());

const open = () => teacher.press(`Put ${NAME} on a shared drive`);
/** How large the file is that was made. */
const madeBytes = () =>
  teacher.page.$eval(`a[download="${NAME}"]`, async (link) => {
    const made = await fetch((link as HTMLAnchorElement).href);
    return (await made.blob()).size;
  });

describe('the school’s drive', () => {
  it('asks for name and password once, and says where they are wrong', async () => {
    await open();
    await teacher.fill('Your name on this drive', userName);
    await teacher.fill('Your password there', 'granny-knot');
    await teacher.press('Open the drive');
    await teacher.sees('The drive does not know this name with this password.');
    await teacher.fill('Your password there', password);
    await teacher.press('Open the drive');
    await teacher.find('button', 'Films');
  });

  it('takes what was made into the folder that was chosen, over a network that goes and comes', async () => {
    await teacher.press('Films');
    await teacher.sees('Nothing lies here yet.');
    let lost = 0;
    const loses = (request: HTTPRequest) => {
      const isLost = /\/parts\/[24]$/.test(request.url()) && lost < 3;
      if (isLost) lost++;
      return void (isLost ? request.abort('internetdisconnected') : request.continue());
    };
    await teacher.page.setRequestInterception(true);
    teacher.page.on('request', loses);
    await teacher.press('Put it here');
    await teacher.sees(`It is on Boat house › Films, as ${NAME}.`);
    teacher.page.off('request', loses);
    await teacher.page.setRequestInterception(false);
    expect(lost).toBe(3);
    expect(readdirSync(join(folder, 'Films'))).toEqual([NAME]);
    const bytes = readFileSync(join(folder, 'Films', NAME));
    expect(bytes.length).toBe(await madeBytes());
    // RIFF says how long the rest of the file is (Multimedia Programming Interface and Data Specifications 1.0).
    expect([bytes.toString('latin1', 0, 4), bytes.readUInt32LE(4)]).toEqual(['RIFF', bytes.length - 8]);
  });

  it('knows the folder the next time, and writes nothing over', async () => {
    await open();
    await teacher.sees(NAME);
    await teacher.press('Put it here');
    await teacher.sees(`as ${COMPASS} 2.wav.`);
    const [one, other] = readdirSync(join(folder, 'Films')).map((name) => readFileSync(join(folder, 'Films', name)));
    expect(one.equals(other)).toBe(true);
  });

  it('says when there is no room, and keeps the file to be put elsewhere', async () => {
    await open();
    await teacher.press('Boat house');
    await teacher.press(FULL_FOLDER);
    await teacher.sees('Nothing lies here yet.');
    await teacher.press('Put it here');
    await teacher.sees('There is no room left on the drive.');
    await teacher.find('link', `Save ${NAME}`);
    expect(readdirSync(join(folder, FULL_FOLDER))).toEqual([]);
  });

  it('is looked through from Share, and what lies there is fetched', async () => {
    const into = join(classroom.school.folder, 'fetched');
    mkdirSync(into);
    await savesInto(classroom.browser, into);
    await teacher.press('See what lies there');
    await teacher.press('Boat house');
    await teacher.press('Films');
    await teacher.page.locator(`[role="dialog"] a[download="${NAME}"]`).click();
    await expect.poll(() => readdirSync(into), { timeout: 20_000 }).toEqual([NAME]);
    expect(readFileSync(join(into, NAME)).equals(readFileSync(join(folder, 'Films', NAME)))).toBe(true);
  });

  it('is forgotten when its teacher wants it', async () => {
    await teacher.press('Forget my password');
    await teacher.find('textbox', 'Your name on this drive');
  });
});
