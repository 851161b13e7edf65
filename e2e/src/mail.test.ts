import type { LessonDocument, LessonSummary } from '@kite-trail/core/contract/lesson';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';

const COMPASS = 'From chart to compass';
/** Nobody listens there (IANA: reserved). */
const NOWHERE = 'smtp://localhost:1';

async function sharedIn(classroom: Classroom): Promise<void> {
  const { teacher, school } = classroom;
  const lessons = await teacher.request<LessonSummary[]>('GET', '/lessons');
  const { id } = lessons.find(({ title }) => title === COMPASS)!;
  const { edit } = await teacher.request<LessonDocument>('GET', `/lessons/${id}`);
  await teacher.request('POST', `/lessons/${id}/publications/${edit.n}`);
  await teacher.page.goto(`${school.url}/lesson/${id}/share`);
}

describe('a link sent by mail', () => {
  let classroom: Classroom;
  let teacher: Person;
  beforeAll(async () => {
    classroom = await openClassroom();
    teacher = classroom.teacher;
    await sharedIn(classroom);
  });
  afterAll(() => classroom?.close());

  it('arrives in everybody’s mailbox, and whoever follows it watches', async () => {
    await teacher.press('By mail');
    await teacher.fill('To', 'Anna Reed <anna@harbour.example>, full@harbour.example');
    await teacher.fill('A few words', 'For Monday: watch until the turn.');
    await teacher.press('Send');
    await teacher.sees(/anna@harbour\.example\s+Sent/);
    await teacher.sees(/full@harbour\.example\s+Not sent: The mailbox is full\./);

    const student = await Person.at(await classroom.browser.createBrowserContext(), classroom.school.mailbox);
    await student.sees('To anna@harbour.example, from Marit Skagen');
    await student.sees('For Monday: watch until the turn.');
    const address = await student.page.$eval('article a', (link) => (link as HTMLAnchorElement).href);
    await student.page.goto(address);
    await student.find('button', 'Play');
    await student.page.close();
  });

  it('that was not sent is told beside the link, and can be forgotten', async () => {
    await teacher.page.keyboard.press('Escape');
    await teacher.press('1 letter not sent. See why');
    await teacher.press('Forget the letter to full@harbour.example');
    await teacher.isGone('button', 'Forget the letter to full@harbour.example');
    await teacher.page.keyboard.press('Escape');
    await teacher.isGone('button', '1 letter not sent. See why');
  });

  it('to what is no address is refused, with the reason, and stays written', async () => {
    await teacher.press('By mail');
    await teacher.fill('To', 'Anna Reed');
    await teacher.press('Send');
    await teacher.sees('An address is written like anna@school.example');
    expect(await teacher.valueOf('textbox', 'To')).toBe('Anna Reed');
  });
});

describe('while the mail server is gone, a link sent by mail', () => {
  let classroom: Classroom;
  beforeAll(async () => {
    classroom = await openClassroom({ environment: { SMTP_URL: NOWHERE } });
    await sharedIn(classroom);
  });
  afterAll(() => classroom?.close());

  it('waits, which is told with the reason and when it is tried again, and can be taken back', async () => {
    const { teacher } = classroom;
    await teacher.press('By mail');
    await teacher.fill('To', 'anna@harbour.example');
    await teacher.press('Send');
    await teacher.sees(/The school’s mail server cannot be reached\. Tried again at \d/);
    await teacher.press('Do not send to anna@harbour.example');
    await teacher.isGone('button', 'Do not send to anna@harbour.example');
  });
});
