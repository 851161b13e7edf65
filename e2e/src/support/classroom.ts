import { DEMO_TEACHER } from '@kite-trail/demo/load';
import type { Browser } from 'puppeteer-core';
import { openBrowser, Person, type OpenOptions } from './browser';
import { School } from './school';

/** A school with its demo data, and its teacher signed in at a browser. */
export interface Classroom {
  school: School;
  browser: Browser;
  teacher: Person;
  close(): Promise<void>;
}

export async function openClassroom(options: OpenOptions = {}): Promise<Classroom> {
  const school = await School.start();
  const browser = await openBrowser(options);
  const teacher = await Person.at(browser, school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  const close = async () => {
    await browser.close();
    await school.close();
  };
  return { school, browser, teacher, close };
}
