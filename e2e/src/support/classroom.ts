import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import type { Browser } from 'puppeteer-core';
import { openBrowser, Person, type OpenOptions } from './browser';
import { School } from './school';

/** A school with its demo data, and its teacher signed in at a browser. */
export interface Classroom {
  school: School;
  browser: Browser;
  teacher: Person;
  /** Makes a lesson and opens it. */
  makeLesson(name: string): Promise<void>;
  close(): Promise<void>;
}

export async function openClassroom({
  environment = {},
  ...options
}: OpenOptions & { environment?: Record<string, string> } = {}): Promise<Classroom> {
  const school = await School.start('demo', environment);
  const browser = await openBrowser(options);
  const teacher = await Person.at(browser, school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  const close = async () => {
    await browser.close();
    await school.close();
  };
  const makeLesson = async (name: string) => {
    await teacher.page.goto(school.url);
    await teacher.press('New lesson');
    await teacher.fill('Name', name);
    await teacher.press('Make the lesson');
    await teacher.find('image', 'Page to write on');
  };
  return { school, browser, teacher, makeLesson, close };
}
