import { join } from 'node:path';
import { DEMO_TEACHER, DRIVE_USERS } from '../teachers';
import { compass } from '../teaching/compass';
import { makeOneOfEach } from './one-of-each';
import { SchoolCalls } from './school-calls';

const FOLDER = 'Made of a lesson';

/** Puts one of each kind of file onto the stand-in drive, and opens it for its teacher. @returns what there is to tell */
export async function fillDrive(origin: string, folder: string): Promise<string> {
  const school = await SchoolCalls.signIn(origin, DEMO_TEACHER);
  const drives = (await (await school.ask('GET', '/drives')).json()) as { id: string }[];
  for (const { id } of drives) await school.ask('PUT', `/drives/${id}/account`, DRIVE_USERS[0]);
  const { title } = compass;
  const files = await makeOneOfEach(school, title, join(folder, FOLDER));
  const video = files.some((name) => name.endsWith('.mp4')) ? '' : ', but for a video: that needs ffmpeg here';
  return `One of each file that is made of a lesson lies on the drive${video}: see Share, “Shared drive”.`;
}
