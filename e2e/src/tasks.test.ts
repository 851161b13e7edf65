import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { Student } from '@kite-trail/core/contract/student';
import type { MarkingTable, TaskSummary } from '@kite-trail/core/contract/task';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import { createCanvas } from '@napi-rs/canvas';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { untilRecorded } from './support/recording';
import { Soundness } from './support/soundness';
import { secondsWatched } from './support/watching';

const QUESTION = 'Draw the two marks in line, and say what you see when you are off it to port.';

let classroom: Classroom;
let teacher: Person;
let crew: SchoolClass;
let students: Student[];
/** Each at a browser of their own. */
let ida: Person;
let ole: Person;
let per: Person;
/** What the teacher, and Ida, see is sound for all hands and eyes. */
let teachersCheck: () => Promise<void>;
let idasCheck: () => Promise<void>;

beforeAll(async () => {
  classroom = await openClassroom();
  teacher = classroom.teacher;
  teachersCheck = (await Soundness.of(teacher)).check;
  crew = (await teacher.request<SchoolClass[]>('GET', '/classes')).find(({ name }) => name === 'Young sailors')!;
});
afterAll(() => classroom?.close());

/** Somebody with a phone opens the private link that was copied for them. */
async function arrives(name: string): Promise<Person> {
  const context = await classroom.browser.createBrowserContext();
  const { key } = students.find((one) => one.name === name)!;
  const student = await Person.at(context, `${classroom.school.url}/student/in/${key}`);
  await student.page.setViewport({ width: 390, height: 844, isMobile: true, hasTouch: true });
  await student.sees('Young sailors');
  return student;
}

/** The buttons of a step and of what is done in it may be called the same: this presses the latter. */
const pressIn = (person: Person, region: string, name: string) =>
  person.page.locator(`section[aria-label="${region}"] ::-p-aria([name="${name}"][role="button"])`).click();

async function begin(student: Person): Promise<void> {
  await student.press('Begin');
  await student.find('image', 'Page to write on');
  await student.sees(QUESTION);
}

async function recordFor(person: Person, seconds: number): Promise<void> {
  await person.choose('Voice from', 'simulated');
  await person.press('Record this lesson');
  await person.find('button', 'Pause');
  await untilRecorded(person, seconds);
}

const newest = async () => {
  const { tasks } = await teacher.request<{ tasks: TaskSummary[] }>('GET', `/classes/${crew.id}/tasks`);
  return tasks[0];
};
const handedIn = async (name: string) => {
  const table = await teacher.request<MarkingTable>('GET', `/tasks/${(await newest()).id}`);
  return table.rows.find(({ student }) => student.name === name)!.reply?.handIn ?? null;
};

describe('a task', () => {
  it('is given to a class whose students are known by a name and a link of their own', async () => {
    await teacher.page.goto(`${classroom.school.url}/class/${crew.id}`);
    await teacher.press('Students');
    await teacher.fill('Add names, one on each line', 'Ida\nOle\nPer Anker');
    await teacher.press('Add 3 names');
    await teacher.find('button', 'Copy the link of Per Anker');
    await teachersCheck();
    students = await teacher.request<Student[]>('GET', `/classes/${crew.id}/students`);

    await classroom.makeLesson('The leading line');
    await teacher.stroke([0.2, 0.3], [0.8, 0.3]);
    await teacher.press('Share');
    await teacher.press('Give it to a class');
    await teacher.choose('For which class', crew.id);
    await teacher.fill('What is asked', QUESTION);
    await (await teacher.page.waitForSelector('summary ::-p-text(Points)'))!.click();
    await teacher.press('Something that is looked at');
    await teacher.fill('What is looked at, 1', 'Both marks in line');
    await teachersCheck();
    await teacher.press('Give it out');
    await teacher.sees('Young sailors has it.');
  });

  it('is done on a copy of one’s own, by hand and voice, and handed in', async () => {
    ida = await arrives('Ida');
    idasCheck = (await Soundness.of(ida)).check;
    await idasCheck();
    await begin(ida);
    await idasCheck();
    await ida.stroke([0.3, 0.5], [0.7, 0.7]);
    await recordFor(ida, 3);
    await ida.stroke([0.2, 0.6], [0.4, 0.8]);
    await ida.press('Stop');
    await ida.press('Hand in');
    await ida.sees(QUESTION);
    await pressIn(ida, 'Hand in', 'Hand in');
    await ida.sees(/Handed in .+\./);
    await idasCheck();
    expect(samplesToSeconds((await handedIn('Ida'))!.lengthSamples)).toBeGreaterThan(2.5);
    // What a class mate makes is nobody else's, and the teacher's page is as it was.
    ole = await arrives('Ole');
    await begin(ole);
    const own = await ole.request<LessonDocument>('GET', `/lessons/${ole.page.url().split('/')[5]}`);
    expect(own.takes).toEqual([]);
  });

  it('goes on where it was when its tab is killed in the middle of a recording', async () => {
    await recordFor(ole, 3);
    const url = ole.page.url();
    const context = ole.page.browserContext();
    await ole.page.close();
    ole = await Person.at(context, url);
    await ole.sees('had broken off here');
    await ole.press('Hand in');
    await pressIn(ole, 'Hand in', 'Hand in');
    await ole.sees(/Handed in .+\./);
    expect(samplesToSeconds((await handedIn('Ole'))!.lengthSamples)).toBeGreaterThan(1);
  });

  it('is handed in without a network, before it was due, and comes when there is one, also from a tab that was closed', async () => {
    per = await arrives('Per Anker');
    await begin(per);
    await per.stroke([0.2, 0.7], [0.8, 0.5]);
    await per.press('Hand in');
    await per.sees(QUESTION);
    await per.page.setOfflineMode(true);
    await pressIn(per, 'Hand in', 'Hand in');
    await per.sees('It is sent as soon as there is a network');
    const context = per.page.browserContext();
    await per.page.close();
    // Meanwhile it was due.
    const { id, ...about } = await newest();
    const dueAt = new Date().toISOString();
    await teacher.request('PUT', `/tasks/${id}`, { ...about, dueAt, takesLate: false, isClosed: false });
    expect(await handedIn('Per Anker')).toBeNull();
    per = await Person.at(context, `${classroom.school.url}/student`);
    await expect.poll(() => handedIn('Per Anker'), { timeout: 30_000 }).not.toBeNull();
    expect((await handedIn('Per Anker'))!.isLate).toBe(true);
  });

  it('that is closed says so, and keeps what was made', async () => {
    await ole.page.reload();
    await ole.find('region', 'Hand in');
    await ole.sees('Closed: nothing can be handed in any more');
    await ole.press('Write');
    await ole.stroke([0.3, 0.3], [0.5, 0.4]);
    await ole.sees('Saved');
  });
});

describe('feedback', () => {
  it('is chosen from the marking table, where some are compared side by side', async () => {
    await teacher.press('See what is handed in', 'link');
    await teacher.find('button', 'Ida: New');
    await teacher.sees('3 of 3 handed in');
    await teachersCheck();
    for (const name of ['Ida', 'Ole']) await (await teacher.find('checkbox', `Choose ${name}`)).click();
    await teacher.press('2 side by side');
    await teacher.find('image', 'Page 1 of Ole');
    await teachersCheck();
    await teacher.press('Close');
    await teacher.press('Hide names');
    await teacher.find('button', 'Student 1: New');
    expect(await teacher.run(() => document.querySelector('main')!.innerText)).not.toContain('Ida');
    await teacher.press('Show names');
    await teacher.press('Ida: New');
    await teacher.find('group', 'Whose work it is');
  });

  it('is spoken and written over a student’s own recording, and given back with points', async () => {
    await teacher.find('slider', 'Playhead');
    await recordFor(teacher, 3);
    await teacher.stroke([0.1, 0.8], [0.9, 0.8]);
    await teacher.press('Stop');
    await teacher.press('Give back');
    const points = await teacher.find('spinbutton', 'Both marks in line');
    await points.type('4');
    await teacher.fill('A few words', 'Look along both marks.');
    await teacher.press('Give it back');
    await teacher.sees(/Given back .+ Not seen yet/);
    await teachersCheck();
    expect((await handedIn('Ida'))!.points).toEqual([4]);
    await teacher.page.keyboard.press('Tab');
    await teacher.page.keyboard.press('f');
    await teacher.find('button', 'Before: Ida');
    await teacher.press('Next: Per Anker');
    await teacher.find('button', 'Before: Ole');
  });

  it('is read and heard by its student alone, who asks for nothing else, and is seen to have been', async () => {
    await ida.page.goto(`${classroom.school.url}/student`);
    await ida.find('region', 'Came back');
    await ida.press('Hear and read it');
    await ida.sees('Look along both marks.');
    await ida.sees('4 of 5 points');
    await ida.find('image', 'Page 1 with what was written on it');
    await expect.poll(async () => (await handedIn('Ida'))!.seenAt).not.toBeNull();
    await idasCheck();
    await ida.fill('Answer your teacher, or ask back', 'Which one is nearer?');
    await ida.press('Send');
    await ida.find('button', 'Change it');
    expect((await handedIn('Ida'))!.answer).toBe('Which one is nearer?');
    await ida.press('Hear what was said', 'link');
    const length = await ida.find('slider', 'Where to play');
    const seconds = await length.evaluate((bar) => Number((bar as HTMLInputElement).max) / 48_000);
    expect(seconds).toBeGreaterThan(5.5);
    await ida.press('Play');
    await expect.poll(() => secondsWatched(ida)).toBeGreaterThan(0.5);
    await ole.page.goto(`${classroom.school.url}/student`);
    await ole.sees('Handed in');
    expect(await ole.run(() => document.body.innerText)).not.toContain('Look along both marks.');
  });
});

describe('work that came otherwise', () => {
  it('is dropped on the table, told by its name whose it is, and marked as all other', async () => {
    const canvas = createCanvas(400, 300);
    const surface = canvas.getContext('2d');
    surface.fillStyle = '#f4f0e4';
    surface.fillRect(0, 0, 400, 300);
    surface.fillStyle = '#1f2a44';
    surface.fillRect(60, 120, 280, 20);
    const png = canvas.toBuffer('image/png');
    await teacher.press('All replies', 'link');
    await teacher.find('button', 'Per Anker: Opened');
    const before = (await handedIn('Per Anker'))!.id;
    await teacher.drop('.tiles', 'anker per.png', 'image/png', png);
    expect(
      await (
        await teacher.find('combobox', 'Whose is anker per.png?')
      ).evaluate((field) => (field as HTMLSelectElement).selectedOptions[0].text),
    ).toBe('Per Anker');
    await teachersCheck();
    await teacher.press('Bring it in');
    await teacher.find('button', 'Per Anker: New');
    const { id, lesson } = (await handedIn('Per Anker'))!;
    expect(id).not.toBe(before);
    const { pages } = await teacher.request<LessonDocument>('GET', `/lessons/${lesson}`);
    expect(pages.map(({ page }) => page.sheet?.pageIndex)).toEqual([null]);
    await teacher.press('Per Anker: New');
    await teacher.find('image', 'Page to write on');
    await teacher.stroke([0.2, 0.2], [0.8, 0.2]);
    await teacher.press('Give back');
    await teacher.fill('A few words', 'Thank you for the letter.');
    await (await teacher.page.waitForSelector('summary ::-p-text(Phrases of your own)'))!.click();
    await teacher.press('Keep the words above as one');
    await teacher.find('button', 'Thank you for the letter.');
    await teachersCheck();
    await teacher.press('Give it back');
    await teacher.sees(/Given back .+ Not seen yet/);
  });
});

describe('a question', () => {
  let guest: Person;
  /** How dark the middle of a reply’s small picture is. */
  const inkIn = (name: string) =>
    teacher.run(async (label) => {
      const tile = document.querySelector(`button[aria-label^="${label}: "] img`) as HTMLImageElement | null;
      if (!tile) return -1;
      await tile.decode().catch(() => {});
      const canvas = new OffscreenCanvas(320, 180);
      const surface = canvas.getContext('2d')!;
      surface.drawImage(tile, 0, 0, 320, 180);
      const { data } = surface.getImageData(0, 0, 320, 180);
      let dark = 0;
      for (let at = 0; at < data.length; at += 4) if (data[at] < 110 && data[at + 3] > 128) dark++;
      return dark;
    }, name);

  it('is asked on the page that is shown, and answered by hand and by choice, as the teacher looks on', async () => {
    await classroom.makeLesson('Which side?');
    await teacher.press('Ask the class');
    await teacher.choose('Who is asked', crew.id);
    await teacher.fill('The question, where it is not on the page', 'On which side do you leave a green buoy?');
    await teacher.fill('Choices, one on each line, where there are any', 'Port\nStarboard');
    await teacher.press('Ask');
    await teacher.find('list', 'What was chosen');
    await ida.page.goto(`${classroom.school.url}/student`);
    await ida.find('region', 'Asked now');
    await ida.press('Begin');
    await ida.find('image', 'Page to write on');
    await teacher.find('button', 'Ida: Begun');
    expect(await inkIn('Ida')).toBe(0);
    await ida.stroke([0.2, 0.3], [0.8, 0.7]);
    await ida.press('Starboard', 'radio');
    await expect.poll(() => inkIn('Ida'), { timeout: 30_000 }).toBeGreaterThan(20);
    await teacher.sees(/Starboard\s+1/);
    await idasCheck();
    await teachersCheck();
  });

  it('is answered by whoever has its code, under a name they write', async () => {
    const { code } = await newest();
    const context = await classroom.browser.createBrowserContext();
    guest = await Person.at(context, `${classroom.school.url}/student/ask`);
    await (await Soundness.of(guest)).check();
    await guest.fill('Code', code.toLowerCase());
    await guest.press('Open');
    await guest.fill('Your name', 'Visitor');
    await guest.press('Answer');
    await guest.find('image', 'Page to write on');
    await guest.stroke([0.2, 0.7], [0.8, 0.3]);
    await expect.poll(() => inkIn('Visitor'), { timeout: 30_000 }).toBeGreaterThan(20);
  });

  it('is stopped, and two answers are laid beside one another, written on and spoken over', async () => {
    await teacher.press('Stop');
    await teacher.find('button', 'Ida: New');
    await teacher.find('button', 'Visitor: New');
    for (const name of ['Ida', 'Visitor']) await (await teacher.find('checkbox', `Choose ${name}`)).click();
    await teacher.press('Put them on a page');
    await teacher.find('image', 'Page to write on');
    const id = new URL(teacher.page.url()).pathname.split('/')[2];
    await recordFor(teacher, 2);
    await teacher.stroke([0.1, 0.5], [0.9, 0.5]);
    await teacher.press('Stop');
    await teacher.find('slider', 'Playhead');
    const made = await teacher.request<LessonDocument>('GET', `/lessons/${id}`);
    expect(made.takes).toHaveLength(1);
    expect(made.title).toBe('Answers: On which side do you leave a green buoy?');
    await guest.page.reload();
    await guest.sees('Your teacher has stopped it');
  });
});

describe('a key', () => {
  it('that was renewed lets nobody in, and what was made waits on the device until its student comes in again', async () => {
    await ole.press('Go on');
    await ole.press('Write');
    const { id } = students.find(({ name }) => name === 'Ole')!;
    await teacher.request('POST', `/students/${id}/key`);
    await ole.stroke([0.1, 0.1], [0.2, 0.2]);
    await ole.press('Write my key');
    const [{ key }] = (await teacher.request<Student[]>('GET', `/classes/${crew.id}/students`)).filter(
      (one) => one.id === id,
    );
    await ole.fill('Your key', key.toLowerCase());
    await ole.press('Come in');
    await ole.sees('Young sailors');
    await ole.press('Go on');
    await ole.sees('Saved');
  });
});
