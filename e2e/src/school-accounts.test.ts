import type { makeTicket } from '@kite-trail/server/accounts/tickets';
import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { piecesOn } from './support/lessons';

const WAY = 'with Sandhaven’s accounts';
let classroom: Classroom;
let browser: Browser;

beforeAll(async () => {
  classroom = await openClassroom();
  ({ browser } = classroom);
});
afterAll(() => classroom?.close());

const atTheDoor = async (path = '/sign-in') =>
  Person.at(await browser.createBrowserContext(), `${classroom.school.url}${path}`);

describe('the school’s accounts', () => {
  it('let a teacher in, who needs no password here', async () => {
    const teacher = await atTheDoor();
    await teacher.press(`Sign in ${WAY}`);
    await teacher.sees('Who are you?');
    await teacher.press('Marit Skagen');
    await teacher.find('heading', 'Lessons');
    await teacher.find('button', 'What to do with The rule of twelfths');
    await teacher.page.close();
  });

  it('do not let in somebody who does not teach here, nor whoever turns back; both are told', async () => {
    const somebody = await atTheDoor();
    await somebody.press(`Sign in ${WAY}`);
    await somebody.press('Ida Holm');
    await somebody.sees('Nobody with this account teaches here.');
    await somebody.page.close();
    const nobody = await atTheDoor();
    await nobody.press(`Sign in ${WAY}`);
    await nobody.press('Nobody: go back');
    await nobody.sees('You were not signed in.');
    await nobody.page.close();
  });

  it('let somebody join who is invited', async () => {
    const made = await classroom.teacher.request<Awaited<ReturnType<typeof makeTicket>>>('POST', '/tickets', {
      teacher: null,
    });
    const invited = await atTheDoor(`/join#${made.code}`);
    await invited.press(`Join ${WAY}`);
    await invited.press('Ida Holm');
    await invited.find('link', 'Ida Holm: your account');
    await invited.page.close();
  });

  it('let in again whoever’s sign-in has run out in a lesson, which stays open meanwhile', async () => {
    const { teacher } = classroom;
    await classroom.makeLesson('Knots, interrupted');
    await teacher.page.deleteCookie(...(await teacher.page.cookies()));
    await teacher.page.keyboard.press('p');
    await teacher.stroke([0.2, 0.2], [0.4, 0.4]);
    await teacher.sees('Your sign-in has run out.');
    await teacher.press('With Sandhaven’s accounts, in a window of its own', 'link');
    const opened = await browser.waitForTarget((target) => target.url().endsWith('/sign-in'));
    const door = await Person.before((await opened.page())!);
    await door.press(`Sign in ${WAY}`);
    await door.press('Marit Skagen');
    await door.find('heading', 'Lessons');
    await door.page.close();
    await teacher.page.bringToFront();
    await teacher.sees(/^Saved$/m);
    await teacher.isGone('dialog', 'Sign in again');
    expect(await piecesOn(teacher)).toHaveLength(1);
  });
});
