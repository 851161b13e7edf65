import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import { DEMO_COLLEAGUE, DEMO_TEACHER } from '@kite-trail/demo/teachers';
import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, Person } from './support/browser';
import { School } from './support/school';

let school: School;
let browser: Browser;
let keeper: Person;

beforeAll(async () => {
  school = await School.start('demo');
  browser = await openBrowser();
  keeper = await Person.at(browser, school.url);
  await keeper.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
});
afterAll(async () => {
  await browser?.close();
  await school?.close();
});

const somebody = async (url = school.url) => Person.at(await browser.createBrowserContext(), url);

describe('whoever keeps the school', () => {
  it('invites a teacher, who joins by the link; it lets nobody else in', async () => {
    await keeper.press('Teachers', 'link');
    await keeper.press('Invite a teacher');
    const link = await keeper.valueOf('textbox', 'Link');
    await keeper.page.keyboard.press('Escape');

    const invited = await somebody(link);
    await invited.sees('You are invited to teach here.');
    await invited.fill('Your name', 'Tove Ahlgren');
    await invited.fill('E-mail address', 'tove@sandhaven.example');
    await invited.fill('Password', 'password123');
    await invited.press('Join and begin');
    await invited.sees('lists of those who break in');
    await invited.fill('Password', 'halyards-in-the-wind');
    await invited.press('Join and begin');
    await invited.sees('Write, talk, send.');

    const late = await somebody(link);
    await late.sees('This link was used already');
    await late.press('Go to the start');
    await late.find('textbox', 'E-mail address');
    await keeper.page.reload();
    await keeper.sees('Tove Ahlgren');
  });

  it('helps whoever has forgotten a password, and shuts out whoever has left', async () => {
    const { name, email, password } = DEMO_COLLEAGUE;
    const colleague = await somebody();
    await colleague.signIn(email, password);
    await keeper.press(`Change ${name}`);
    await keeper.pick('Link for a new password');
    const link = await keeper.valueOf('textbox', 'Link');
    await keeper.page.keyboard.press('Escape');
    await keeper.isGone('textbox', 'Link');

    const phone = await somebody(link);
    await phone.sees(`Choose a new password, ${name}.`);
    await phone.fill('Password', 'round-the-skerries');
    await phone.press('Set it and sign in');
    await phone.sees('Write, talk, send.');
    // Whoever knew the old password is out.
    await colleague.page.reload();
    await colleague.find('textbox', 'E-mail address');

    await keeper.press(`Change ${name}`);
    await keeper.pick('Shut out');
    await keeper.sees('shut out');
    await colleague.fill('E-mail address', email);
    await colleague.fill('Password', 'round-the-skerries');
    await colleague.press('Sign in');
    await colleague.sees('You can no longer sign in here.');
    await keeper.press(`Change ${name}`);
    await keeper.pick('Let in again');
    await colleague.signIn(email, 'round-the-skerries');
  });
});

describe('a teacher’s own account', () => {
  let teacher: Person;
  const email = 'tove@sandhaven.example';

  beforeAll(async () => {
    teacher = await somebody();
    await teacher.signIn(email, 'halyards-in-the-wind');
  });

  it('shows where they are signed in, and signs out elsewhere', async () => {
    const panel = await somebody();
    await panel.signIn(email, 'halyards-in-the-wind');
    await teacher.press('Tove Ahlgren: your account', 'link');
    await teacher.sees('this device');
    await teacher.press('Sign out everywhere else');
    await teacher.isGone('button', 'Sign out everywhere else');
    await panel.page.reload();
    await panel.find('textbox', 'E-mail address');
  });

  it('has its password changed, by whoever knows the present one', async () => {
    const change = async (present: string) => {
      const card = await teacher.find('region', 'Password');
      const [before, after] = await card.$$('input');
      await before.click({ count: 3 });
      await before.type(present);
      await after.click({ count: 3 });
      await after.type('anchor-watch-at-three');
      await teacher.press('Change the password');
    };
    await change('not-this-one');
    await teacher.sees('This is not your present password.');
    await change('halyards-in-the-wind');
    await teacher.sees('Changed. All other devices are signed out.');
    const elsewhere = await somebody();
    await elsewhere.signIn(email, 'anchor-watch-at-three');
  });

  it('can be taken out, and deleted for good', async () => {
    await teacher.page.goto(school.url);
    await teacher.press('New lesson');
    await teacher.fill('Name', 'Reefing');
    await teacher.press('Make the lesson');
    await teacher.find('image', 'Page to write on');
    await teacher.page.goto(`${school.url}/account`);
    const folder = mkdtempSync(join(tmpdir(), 'kite-trail-download-'));
    const devtools = await browser.target().createCDPSession();
    const contexts = teacher.page.browserContext();
    const done = new Promise<void>((resolve) =>
      devtools.on('Browser.downloadProgress', ({ state }) => state === 'completed' && resolve()),
    );
    await devtools.send('Browser.setDownloadBehavior', {
      behavior: 'allow',
      browserContextId: contexts.id,
      downloadPath: folder,
      eventsEnabled: true,
    });
    await teacher.press('Download it all', 'link');
    await done;
    const [file] = readdirSync(folder);
    const paths = Object.keys(unzipSync(readFileSync(join(folder, file))));
    expect(paths.some((path) => /^lessons\/Reefing .*\/lesson\.json$/.test(path))).toBe(true);

    await teacher.press('Delete this account…');
    const dialog = await teacher.find('dialog', 'Delete this account?');
    await (await dialog.$('input'))!.type('anchor-watch-at-three');
    await teacher.press('Delete all of it, for good');
    await teacher.find('button', 'Sign in');
    await teacher.fill('E-mail address', email);
    await teacher.fill('Password', 'anchor-watch-at-three');
    await teacher.press('Sign in');
    await teacher.sees('do not go together');
  });
});
