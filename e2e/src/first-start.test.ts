import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, Person } from './support/browser';
import { School } from './support/school';

let school: School;
let browser: Browser;

beforeAll(async () => {
  school = await School.start('empty');
  browser = await openBrowser();
});
afterAll(async () => {
  await browser?.close();
  await school?.close();
});

describe('an empty school', () => {
  it('asks for its first teacher, who is then signed in, and can sign out and in again', async () => {
    const teacher = await Person.at(browser, school.url);
    await teacher.sees('you are its first teacher');
    await teacher.fill('Set-up code', 'not-this-one');
    await teacher.fill('Your name', 'Ines Holm');
    await teacher.fill('E-mail address', 'ines@sandhaven.example');
    await teacher.fill('Password', 'short');
    await teacher.press('Set up and begin');
    await teacher.sees('Use at least 10 characters.');
    await teacher.fill('Password', 'lee-of-the-island');
    await teacher.press('Set up and begin');
    await teacher.sees('This is not the set-up code.');
    await teacher.fill('Set-up code', school.setUpCode);
    await teacher.press('Set up and begin');
    await teacher.sees('No lessons yet.');
    await teacher.press('Sign out');
    await teacher.fill('E-mail address', 'ines@sandhaven.example');
    await teacher.fill('Password', 'not-this-one');
    await teacher.press('Sign in');
    await teacher.sees('do not go together');
    await teacher.signIn('ines@sandhaven.example', 'lee-of-the-island');
  });

  it('shows a stranger nothing but the way to sign in', async () => {
    const stranger = await Person.at(await browser.createBrowserContext(), `${school.url}/lesson/some-lesson-id`);
    await stranger.sees('Sign in');
    expect(new URL(stranger.page.url()).pathname).toBe('/sign-in');
  });

  it('can be used by keyboard alone: a lesson is made, recorded and stopped without voice', async () => {
    const teacher = await Person.at(browser, school.url);
    await (await teacher.find('button', 'New lesson')).focus();
    await teacher.page.keyboard.press('Enter');
    await (await teacher.find('textbox', 'Name')).focus();
    await teacher.page.keyboard.type('Heaving to');
    await teacher.page.keyboard.press('Enter');
    await teacher.find('image', 'Page to write on');
    await teacher.page.keyboard.press('?');
    await teacher.sees('Keyboard shortcuts');
    await teacher.page.keyboard.press('Escape');
    await teacher.choose('Voice from', 'none');
    await teacher.page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await teacher.page.keyboard.press('r');
    await teacher.find('button', 'Pause');
    await teacher.page.keyboard.press('Space');
    await teacher.sees('Paused');
    await teacher.page.keyboard.press('Space');
    await teacher.find('button', 'Pause');
    await teacher.page.waitForFunction(() => /0:01/.test(document.body.innerText));
    await teacher.page.keyboard.press('r');
    await teacher.find('slider', 'Playhead');
  });
});
