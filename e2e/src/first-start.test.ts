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
    await teacher.sees('Write, talk, send.');
    await teacher.press('Sign out');
    await teacher.fill('E-mail address', 'ines@sandhaven.example');
    await teacher.fill('Password', 'not-this-one');
    await teacher.press('Sign in');
    await teacher.sees('do not go together');
    await teacher.signIn('ines@sandhaven.example', 'lee-of-the-island');
  });

  it('has a finished example to play, with its sound', async () => {
    const teacher = await Person.at(browser, school.url);
    await teacher.find('link', 'Watch a finished example');
    const viewer = await Person.at(browser, `${school.url}/w/example`);
    await viewer.sees('From chart to compass');
    await viewer.press('Play');
    await viewer.page.waitForFunction(() => /0:0[2-9]/.test(document.body.innerText));
    await viewer.press('Pause');
    await viewer.page.close();
  });

  it('begins on a blank page with one touch, and tells what hands can do on it, once', async () => {
    const teacher = await Person.at(browser, school.url);
    await teacher.press('Begin on a blank page');
    await teacher.find('image', 'Page to write on');
    await teacher.sees('Two fingers');
    await teacher.stroke([0.3, 0.3], [0.6, 0.4]);
    await teacher.isGone('list', 'On the page');
    await teacher.press('Undo');
    expect(await teacher.page.$$('::-p-aria([name="On the page"])')).toEqual([]);
    await teacher.page.close();
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
