import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Person, savesInto } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { openElsewhere } from './support/lessons';
import { School } from './support/school';

const folder = mkdtempSync(join(tmpdir(), 'kite-trail-archives-'));
let classroom: Classroom;
let other: School;
let newcomer: Person;
/** A class with lessons, as it is where its archive was made. */
let taught: { schoolClass: SchoolClass; lessons: LessonDocument[] };

beforeAll(async () => {
  classroom = await openClassroom();
  await savesInto(classroom.browser, folder);
  const { teacher } = classroom;
  const classes = await teacher.request<SchoolClass[]>('GET', '/classes');
  const schoolClass = classes.find(({ lessons }) => lessons.length > 1)!;
  const lessons: LessonDocument[] = [];
  for (const id of schoolClass.lessons) lessons.push(await teacher.request('GET', `/lessons/${id}`));
  taught = { schoolClass, lessons };
  other = await School.start('empty');
  const context = await classroom.browser.createBrowserContext();
  newcomer = await Person.at(context, other.url);
  await newcomer.fill('Set-up code', other.setUpCode);
  await newcomer.fill('Your name', 'Ines Holm');
  await newcomer.fill('E-mail address', 'ines@sandhaven.example');
  await newcomer.fill('Password', 'lee-of-the-island');
  await newcomer.press('Set up and begin');
  await newcomer.sees('Write, talk, send.');
});
afterAll(async () => {
  await classroom?.close();
  await other?.close();
});

/** The archive that was saved last, once all of it is there. */
async function saved(begins: string): Promise<string> {
  const found = () => readdirSync(folder).find((name) => name.startsWith(begins) && name.endsWith('.zip'));
  await expect.poll(found, { timeout: 30_000 }).toBeDefined();
  return join(folder, found()!);
}

describe('a class as an archive', () => {
  it('is saved in one file, which others can unpack', async () => {
    const { teacher, school } = classroom;
    await teacher.page.goto(`${school.url}/class/${taught.schoolClass.id}`);
    await teacher.press('Archive');
    const listed = execFileSync('unzip', ['-t', await saved(taught.schoolClass.name)]).toString();
    expect(listed).toMatch(/No errors detected/);
    expect(listed.match(/lesson\.json/g)).toHaveLength(taught.lessons.length);
  });

  it('is the same class at another school, though the network goes away meanwhile', async () => {
    await newcomer.upload('An archive of lessons', await saved(taught.schoolClass.name));
    await newcomer.sees(taught.lessons[0].title);
    await newcomer.page.setOfflineMode(true);
    await newcomer.press(`Bring in ${taught.lessons.length} lessons`);
    await newcomer.sees('cannot be reached');
    await newcomer.press('Go on meanwhile');
    await newcomer.page.setOfflineMode(false);
    await newcomer.sees(`${taught.lessons.length} lessons are here now.`);
    await newcomer.press('Close');
    const [schoolClass] = await newcomer.request<SchoolClass[]>('GET', '/classes');
    expect(schoolClass).toMatchObject({ name: taught.schoolClass.name, lessons: taught.schoolClass.lessons });
    for (const lesson of taught.lessons) {
      const { pages, edition, takes, title, about } = await newcomer.request<LessonDocument>(
        'GET',
        `/lessons/${lesson.id}`,
      );
      expect({ pages, edition, title, about }).toEqual({
        ...{ pages: lesson.pages, edition: lesson.edition },
        ...{ title: lesson.title, about: lesson.about },
      });
      // What a recording is made of is named by its bytes.
      const bytes = (all: LessonDocument['takes']) => all.map(({ marks, sound }) => [marks, sound]);
      expect(bytes(takes)).toEqual(bytes(lesson.takes));
    }
  });

  it('plays there', async () => {
    const { id, title } = taught.lessons.find(({ takes }) => takes.some(({ hasSound }) => hasSound))!;
    await newcomer.page.goto(`${other.url}/lesson/${id}/trim`);
    await newcomer.sees(title);
    await newcomer.press('Play');
    await newcomer.page.waitForFunction(() => /\b0:0[1-9]\b/.test(document.body.innerText));
    await newcomer.press('Pause');
  });
});

describe('a lesson as an archive', () => {
  it('is told to be here, and what of it is damaged, and comes as a copy of what is whole', async () => {
    const { teacher, school } = classroom;
    const lesson = taught.lessons.find(({ takes }) => takes.some(({ sound }) => sound !== null))!;
    await teacher.page.goto(`${school.url}/lesson/${lesson.id}/share`);
    await openElsewhere(teacher);
    await teacher.sees(/Save the archive, \d/);
    await teacher.press(await nameOf(teacher, 'Save the archive'));
    const bytes = readFileSync(await saved(lesson.title.slice(0, 10)));
    const at = bytes.indexOf('OggS') + 400;
    bytes[at] ^= 255;
    const damaged = join(folder, 'damaged.zip');
    writeFileSync(damaged, bytes);
    await teacher.page.goto(school.url);
    await teacher.upload('An archive of lessons', damaged);
    await teacher.sees('here already; it would be a copy');
    await teacher.sees('The voice of');
    await (await teacher.find('checkbox', await nameOf(teacher, lesson.title, 'checkbox'))).click();
    await teacher.press('Bring in 1 lesson');
    await teacher.sees('1 lesson is here now.');
    await teacher.press('Close');
    await teacher.sees(`${lesson.title} (copy)`);
  });

  it('that is none is refused, and nothing changed', async () => {
    const { teacher } = classroom;
    const before = await teacher.request<unknown[]>('GET', '/lessons');
    const none = join(folder, 'holiday.zip');
    writeFileSync(none, 'sun and sand');
    await teacher.upload('An archive of lessons', none);
    await teacher.sees('This file is no archive');
    await teacher.press('Close');
    expect(await teacher.request('GET', '/lessons')).toHaveLength(before.length);
  });
});

/** The whole name of what begins with this: it goes on with what is not known beforehand. */
async function nameOf({ page }: Person, begins: string, role = 'button'): Promise<string> {
  const names = await page.$$eval(`${role}, [role=${role}]`, (all) =>
    all.map((one) => (one.textContent ?? '').replace(/\s+/g, ' ').trim()),
  );
  return names.find((name) => name.startsWith(begins))!;
}
