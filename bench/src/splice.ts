import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { cut } from '@kite-trail/core/trail/edit';
import type { Edition } from '@kite-trail/core/trail/edition';
import { keepRecording } from '@kite-trail/demo/load';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { openBrowser, Person } from '@kite-trail/e2e/support/browser';
import type { School } from '@kite-trail/e2e/support/school';
import { openDatabase } from '@kite-trail/server/database/open';
import type { TeacherRow } from '@kite-trail/server/database/rows';
import { makeLesson } from '@kite-trail/server/lessons/lessons';
import { rounded } from './figures';

/** A steady tone of so many seconds, cut every two seconds. */
const [HZ, SECONDS, EVERY] = [440, 20, 2];
/** What is this much quieter than the tone is silence. */
const SILENT = 0.01;

/** Plays a steady tone across splices in the editor: how long it is silent at one, and how far blocks are from meeting. */
export async function benchSplice(school: School): Promise<Record<string, number>> {
  const lesson = await keepTone(school);
  const browser = await openBrowser();
  const teacher = await Person.at(browser, 'about:blank');
  await teacher.page.evaluateOnNewDocument(() => {
    const sounded: { when: number; samples: number[] }[] = [];
    Object.assign(window, { sounded });
    const start = AudioBufferSourceNode.prototype.start;
    AudioBufferSourceNode.prototype.start = function (this: AudioBufferSourceNode, when = 0) {
      sounded.push({ when, samples: Array.from(this.buffer!.getChannelData(0)) });
      start.call(this, when);
    };
  });
  await teacher.page.goto(school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  const { edition, edit } = await teacher.request<LessonDocument>('GET', `/lessons/${lesson}`);
  let { programme } = edition as Edition;
  for (let at = SECONDS - EVERY; at > 0; at -= EVERY) {
    programme = cut(programme, { fromSamples: at * CLOCK_HZ, toSamples: (at + 0.7123) * CLOCK_HZ }, 'keep');
  }
  await teacher.request('PUT', `/lessons/${lesson}/edition`, { from: edit, edition: { ...edition, programme } });
  await teacher.page.goto(`${school.url}/lesson/${lesson}`);
  await teacher.page.waitForSelector('[aria-label=Trail][aria-busy=false]');
  await teacher.press('Play');
  await teacher.page.waitForFunction(() => {
    const [now, of] = document.querySelector('.clock')!.textContent!.split('/');
    return now.trim() === of.trim();
  });
  const sounded = await teacher.page.evaluate(
    () => (window as unknown as { sounded: { when: number; samples: number[] }[] }).sounded,
  );
  await browser.close();
  const apart = sounded
    .slice(1)
    .map(({ when }, i) => Math.abs(when - sounded[i].when - sounded[i].samples.length / CLOCK_HZ));
  return {
    splice_gap_ms: rounded(longestSilence(sounded.flatMap(({ samples }) => samples)) * 1000),
    splice_blocks_apart_ms: rounded(Math.max(...apart) * 1000, 4),
  };
}

/** The longest silence between the first and the last that is heard of a tone, in seconds. */
function longestSilence(samples: readonly number[]): number {
  const loudest = samples.reduce((most, one) => Math.max(most, Math.abs(one)), 0);
  let [longest, last] = [0, -1];
  for (const [i, one] of samples.entries()) {
    if (Math.abs(one) <= loudest * SILENT) continue;
    if (last >= 0) longest = Math.max(longest, i - last);
    last = i;
  }
  return longest / CLOCK_HZ;
}

async function keepTone(school: School): Promise<string> {
  const file = join(mkdtempSync(join(tmpdir(), 'kite-trail-bench-')), 'tone.ogg');
  const tone = ['-f', 'lavfi', '-i', `sine=frequency=${HZ}:sample_rate=${CLOCK_HZ}:duration=${SECONDS}`];
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...tone, '-c:a', 'libopus', '-b:a', '48k', file]);
  const db = await openDatabase(join(school.folder, 'kite-trail.sqlite'));
  const teacher = (await db<TeacherRow>('teachers').where({ email: DEMO_TEACHER.email }).first())!;
  const lesson = await makeLesson(db, teacher.id, 'A fog signal');
  await keepRecording(db, lesson, { marks: [], sound: readFileSync(file), lengthSamples: SECONDS * CLOCK_HZ });
  await db.destroy();
  return lesson.id;
}
