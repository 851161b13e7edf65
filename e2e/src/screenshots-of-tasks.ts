import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { Student } from '@kite-trail/core/contract/student';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { openBrowser, Person } from './support/browser';
import { PHONE, take, takeNow, WIDE } from './support/pictures';
import { School } from './support/school';

/** Takes the README's pictures of tasks, from the demo data: what is given out, answered, marked and heard. */
const school = await School.start('demo', { DEMO_UNSHARED: '' });
const browser = await openBrowser({ size: WIDE });
const teacher = await Person.at(browser, school.url);
await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);

const classes = await teacher.request<SchoolClass[]>('GET', '/classes');
const crew = classes.find(({ name }) => name === 'Young sailors')!;
const students = await teacher.request<Student[]>('GET', `/classes/${crew.id}/students`);

/** Somebody with a phone, or at a desk. */
async function arrives(name: string, size: typeof WIDE): Promise<Person> {
  const context = await browser.createBrowserContext();
  const { key } = students.find((one) => one.name === name)!;
  const student = await Person.at(context, `${school.url}/student/in/${key}`);
  await student.page.setViewport({ ...size, isMobile: size !== WIDE, hasTouch: size !== WIDE });
  await student.sees(crew.name);
  return student;
}

// The marking table.
await teacher.page.goto(`${school.url}/class/${crew.id}/tasks`);
await (await teacher.page.waitForSelector('::-p-text(Which point of sail?)'))!.click();
await teacher.find('button', 'Liv: New');
await teacher.page.waitForFunction(() =>
  [...document.querySelectorAll<HTMLImageElement>('.tile img')].every(
    ({ complete, naturalWidth }) => complete && naturalWidth > 0,
  ),
);
await take(teacher, 'marking-table');

// A task on a phone.
const sigrid = await arrives('Sigrid', PHONE);
await sigrid.press('Go on');
await sigrid.find('image', 'Page to write on');
await take(sigrid, 'task-phone');

// Feedback that is heard.
const ida = await arrives('Ida', WIDE);
await ida.press('Hear and read it');
await ida.press('Hear what was said', 'link');
const range = await ida.find('slider', 'Where to play');
await range.evaluate((bar) => {
  (bar as HTMLInputElement).value = String(21 * 48_000);
  bar.dispatchEvent(new Event('input', { bubbles: true }));
});
await take(ida, 'feedback');

// Answers to what is asked now.
await teacher.page.bringToFront();
await teacher.page.goto(school.url);
await (await teacher.page.waitForSelector('::-p-text(Coming in from sea: lateral marks)'))!.click();
await teacher.find('image', 'Page to write on');
await teacher.press('Ask the class');
await teacher.choose('Who is asked', crew.id);
await teacher.fill('The question, where it is not on the page', 'On which side do you leave a green buoy?');
await teacher.fill('Choices, one on each line, where there are any', 'Port\nStarboard');
await teacher.press('Ask');
await teacher.find('list', 'What was chosen');
for (const [n, name] of ['Jonas', 'Liv', 'Maja', 'Ole', 'Runa'].entries()) {
  const student = await arrives(name, WIDE);
  await student.press('Begin');
  await student.find('image', 'Page to write on');
  await student.press(n === 3 ? 'Port' : 'Starboard', 'radio');
  await student.press('Kite red pen');
  await student.stroke([0.3 + n * 0.04, 0.85], [0.45, 0.55 - n * 0.03]);
  await student.stroke([0.45, 0.55 - n * 0.03], [0.47, 0.2 + n * 0.02]);
  await student.sees('Saved');
  await student.page.close();
}
await teacher.page.bringToFront();
await teacher.sees(/Starboard\s+4/);
await teacher.page.waitForFunction(() => document.querySelectorAll('.tile img').length === 5);
await teacher.page.waitForFunction(() => [...document.images].every(({ complete }) => complete));
await takeNow(teacher, 'answers');
await browser.close();
await school.close();
