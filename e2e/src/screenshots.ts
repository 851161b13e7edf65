import { execFileSync } from 'node:child_process';
import type { TeacherName } from '@kite-trail/core/contract/account';
import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { LessonSummary } from '@kite-trail/core/contract/lesson';
import { USUAL_LINK, type madeLink } from '@kite-trail/core/contract/link';
import { DEMO_COLLEAGUE, DEMO_TEACHER } from '@kite-trail/demo/teachers';
import type { z } from 'zod';
import { openBrowser, Person } from './support/browser';
import { folder, PHONE, take, takeNow, WIDE } from './support/pictures';
import { School } from './support/school';

/** Takes the pictures of the main views for the README, from the demo data: `npm run screenshots`. Those of tasks have a script of their own. */
const school = await School.start('demo', { DEMO_UNSHARED: '' });
const browser = await openBrowser({ size: WIDE });
const teacher = await Person.at(browser, school.url);

const playhead = async (person: Person, seconds: number, name: string) => {
  const slider = await person.find('slider', name);
  await slider.focus();
  await person.page.keyboard.press('Home');
  for (let n = 0; n < Math.floor(seconds / 10); n++) await person.page.keyboard.press('PageUp');
};

/** Opens the trail of a lesson from Home. */
async function openTrail(title: string): Promise<void> {
  await teacher.page.goto(school.url);
  await (await teacher.page.waitForSelector(`::-p-text(${title})`))!.click();
  await teacher.find('slider', 'Playhead');
  await teacher.page.waitForSelector('[aria-label=Trail][aria-busy=false]');
}

/** Gives the lesson a link for those who were away, as teachers do. */
async function shareWithTheAbsent(title: string): Promise<void> {
  const lessons = await teacher.request<LessonSummary[]>('GET', '/lessons');
  const { id } = lessons.find((one) => one.title === title)!;
  const endsAt = new Date(Date.now() + 7 * 24 * 3_600_000).toISOString();
  const settings = { ...USUAL_LINK, name: 'For those who were away', endsAt };
  const link = { settings, part: null, awaitsPasscode: true };
  const { made } = await teacher.request<z.output<typeof madeLink>>('POST', `/lessons/${id}/links`, link);
  await teacher.request('PUT', `/lessons/${id}/links/${made}/passcode`, { passcode: 'lantern 9' });
}

/** Lets the demo's other teacher work on a lesson, too. */
async function workWithColleague(title: string): Promise<void> {
  const lessons = await teacher.request<LessonSummary[]>('GET', '/lessons');
  const { id } = lessons.find((one) => one.title === title)!;
  const others = await teacher.request<TeacherName[]>('GET', '/colleagues');
  const colleagues = others.filter(({ name }) => name === DEMO_COLLEAGUE.name).map((one) => one.id);
  await teacher.request('PUT', `/lessons/${id}/colleagues`, { colleagues });
}

await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
await openTrail('From chart to compass');
await playhead(teacher, 20, 'Playhead');
await take(teacher, 'trimming');
await teacher.press('Prepare');
await teacher.press('Show this page live');
await teacher.find('dialog', 'This page is shown live');
await take(teacher, 'live');
await teacher.press('End it');
await teacher.isGone('dialog', 'This page is shown live');
await teacher.press('Share');
const link = await teacher.valueOf('textbox', 'Watch link');
await openTrail('The rule of twelfths');
await teacher.press('Share');
await playhead(teacher, 50, 'Playhead');
await teacher.find('textbox', 'Watch link');
await teacher.press('Make a video');
await teacher.page.waitForSelector('::-p-aria([name="Save The rule of twelfths.mp4"])', { timeout: 120_000 });
// What is shown is where one comes in, with the film further down.
await (await teacher.find('heading', 'Watch link')).evaluate((head) => head.scrollIntoView({ block: 'end' }));
await take(teacher, 'sharing');
await teacher.press('More choices for the video');
await teacher.find('dialog', 'A video the way you want it');
await take(teacher, 'film');
await teacher.press('Cancel');
await teacher.press('More choices for the hand-out');
for (const one of ['A page for each chapter', '2', 'Lines for notes']) await (await teacher.find('radio', one)).click();
await teacher.press('Make this hand-out');
const handout = await (
  await teacher.find('link', 'Save The rule of twelfths.pdf')
).evaluate(async (link) => [...new Uint8Array(await (await fetch((link as HTMLAnchorElement).href)).arrayBuffer())]);
execFileSync('pdftoppm', ['-r', '90', '-png', '-singlefile', '-', `${folder}hand-out`], {
  input: Buffer.from(handout),
});
await teacher.page.reload();
await shareWithTheAbsent('The rule of twelfths');
await teacher.page.reload();
await teacher.press('All links and their rules');
await teacher.find('button', 'Another link');
await take(teacher, 'links');
await openTrail('From chart to compass');
await teacher.press('Share');
await teacher.press('Watched 31 times');
await teacher.page.waitForSelector('.apexcharts-bar-area');
await take(teacher, 'insight');
await teacher.page.goto(`${school.url}/catalogue`);
await teacher.sees('The rule of twelfths');
await take(teacher, 'catalogue');

const student = await Person.at(browser, link);
for (const [name, size] of [
  ['watching', WIDE],
  ['watching-phone', PHONE],
] as const) {
  await student.page.setViewport(size);
  if (name === 'watching') await student.press('Captions');
  const range = await student.find('slider', 'Where to play');
  await range.evaluate((element) => {
    (element as HTMLInputElement).value = String(34 * 48_000);
    element.dispatchEvent(new Event('input', { bubbles: true }));
  });
  await take(student, name);
}
const [{ pageToken }] = await teacher.request<SchoolClass[]>('GET', '/classes');
await student.page.goto(`${school.url}/c/${pageToken}`);
await student.sees('From chart to compass');
await take(student, 'class-page');

await teacher.page.bringToFront();
await teacher.page.goto(school.url);
await (await teacher.page.waitForSelector('::-p-text(Coming in from sea: lateral marks)'))!.click();
await teacher.find('image', 'Page to write on');
const recordable = teacher.page.url().replace(/\/prepare$/, '');
await teacher.page.goto(school.url);
await (await teacher.page.waitForSelector('::-p-text(Into Sandhaven: reading the chart)'))!.click();
await teacher.find('image', 'Page to write on');
await teacher.press('Take hold');
await teacher.drag([0.5, 0.5], [0.5, 0.5]);
await teacher.press('Unlock');
await teacher.sees('Saved');
await take(teacher, 'preparing');
await teacher.press('More');
await teacher.press('Lock');
await teacher.sees('Saved');
await teacher.page.goto(school.url);
await (await teacher.page.waitForSelector('::-p-text(Heights of tide: the worksheet)'))!.click();
await teacher.find('image', 'Page to write on');
await teacher.page.goto(recordable);
await teacher.find('image', 'Page to write on');
await teacher.page.reload();
await teacher.find('image', 'Page to write on');
await teacher.choose('Voice from', 'simulated');
await teacher.press('Record this lesson');
await teacher.find('button', 'Pause');
await teacher.press('Kite red pen');
await teacher.stroke([0.19, 0.44], [0.26, 0.44], 24);
await teacher.press('Channel blue pen');
for (let n = 0; n < 5; n++)
  await teacher.stroke([0.3 + n * 0.07, 0.75 - n * 0.05], [0.36 + n * 0.07, 0.7 - n * 0.05], 24);
await teacher.page.waitForFunction(() => /0:0[4-9]/.test(document.body.innerText));
await takeNow(teacher, 'recording');
await teacher.page.waitForFunction(() => /0:(0[7-9]|[1-5]\d)/.test(document.body.innerText));
await teacher.press('Stop');
await teacher.find('slider', 'Playhead');
await teacher.press('Record');
await teacher.press('Choose a stretch');
await (await teacher.find('slider', 'Start of the stretch')).focus();
for (let n = 0; n < 3; n++) await teacher.page.keyboard.press('ArrowRight');
await (await teacher.find('slider', 'End of the stretch')).focus();
await teacher.page.keyboard.press('ArrowLeft');
await teacher.press('Retake the stretch');
await teacher.sees(/Yours in\s+2/);
await teacher.find('button', 'Pause');
await teacher.press('Kite red pen');
for (let n = 0; n < 3; n++)
  await teacher.stroke([0.62 + n * 0.05, 0.5 + n * 0.08], [0.7 + n * 0.05, 0.46 + n * 0.08], 24);
await teacher.press('Stop');
await teacher.press('Hear the one before');
await teacher.press('Hear the new one');
await teacher.press('Use the new one');
await workWithColleague('The rule of twelfths');
await teacher.page.goto(school.url);
await teacher.sees(`with ${DEMO_COLLEAGUE.name}`);
await take(teacher, 'home');
// A school that refuses a part of a recording.
await teacher.page.goto(recordable);
await teacher.find('slider', 'Playhead');
await teacher.page.setRequestInterception(true);
teacher.page.on('request', (request) => {
  if (!request.url().endsWith('/parts/1')) return void request.continue();
  const refusal = {
    code: 'bad-input',
    message: 'The school’s server is older than this recording and cannot read it.',
  };
  void request.respond({ status: 400, contentType: 'application/json', body: JSON.stringify(refusal) });
});
await teacher.press('Record');
await teacher.press('Record this lesson');
await teacher.find('button', 'Pause');
await teacher.page.waitForFunction(() => /0:0[3-9]/.test(document.body.innerText));
await teacher.press('Stop');
await teacher.press('Close this message');
await teacher.press('Saved 1 set aside');
await teacher.find('button', 'Save to a file');
await take(teacher, 'set-aside');
await browser.close();
await school.close();
