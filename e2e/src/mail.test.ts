import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { LessonDocument, LessonSummary } from '@kite-trail/core/contract/lesson';
import { Mailbox } from '@kite-trail/demo/mailbox/mailbox';
import { showMailbox } from '@kite-trail/demo/mailbox/mailbox-page';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';

const COMPASS = 'From chart to compass';
let mailbox: Mailbox;
let shown: Awaited<ReturnType<typeof showMailbox>>;
let classroom: Classroom;
let teacher: Person;

beforeAll(async () => {
  mailbox = await Mailbox.open(mkdtempSync(join(tmpdir(), 'kite-trail-mailbox-')));
  shown = await showMailbox(mailbox, 0);
  classroom = await openClassroom({ environment: { SMTP_URL: mailbox.address } });
  teacher = classroom.teacher;
  const lessons = await teacher.request<LessonSummary[]>('GET', '/lessons');
  const { id } = lessons.find(({ title }) => title === COMPASS)!;
  const { edit } = await teacher.request<LessonDocument>('GET', `/lessons/${id}`);
  await teacher.request('POST', `/lessons/${id}/publications/${edit.n}`);
  await teacher.page.goto(`${classroom.school.url}/lesson/${id}/share`);
});
afterAll(async () => {
  shown?.server.close();
  await classroom?.close();
});

describe('a link sent by mail', () => {
  it('arrives in everybody’s mailbox, and whoever follows it watches', async () => {
    await teacher.press('By mail');
    await teacher.fill('To', 'Anna Reed <anna@harbour.example>, full@harbour.example');
    await teacher.fill('A few words', 'For Monday: watch until the turn.');
    await teacher.press('Send');
    await teacher.sees(/anna@harbour\.example\s+Sent/);
    await teacher.sees(/full@harbour\.example\s+Not sent: The mailbox is full\./);

    const student = await Person.at(await classroom.browser.createBrowserContext(), shown.address);
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

  it('waits while the mail server is gone, which is told with when it is tried again, and can be taken back', async () => {
    await mailbox.close();
    await teacher.fill('To', 'ben@harbour.example');
    await teacher.press('Send');
    await teacher.sees(/The school’s mail server cannot be reached\. Tried again at \d/);
    await teacher.press('Do not send to ben@harbour.example');
    await teacher.isGone('button', 'Do not send to ben@harbour.example');
  });
});
