import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { openBrowser, Person } from '@kite-trail/e2e/support/browser';
import { areEvenAround, findClicks, nearest, writeClicks } from '@kite-trail/e2e/support/clicks';
import { bytesAt, openLesson, takeMarks } from '@kite-trail/e2e/support/lessons';
import { noteClicksAndPens, notedBy } from '@kite-trail/e2e/support/metronome';
import type { School } from '@kite-trail/e2e/support/school';
import { decodeSound } from '@kite-trail/e2e/support/video';
import { p95, rounded } from './figures';

const STROKES = 60;
const LENGTH_SECONDS = 120;

/**
 * Records strokes while clicks are heard, and compares how far each stroke is from its nearest click as the page's own
 * events and capture times tell it, and as the take has it. Moments at which the simulated sound device stalled are left out.
 */
export async function benchCaptureSync(school: School): Promise<Record<string, number>> {
  const folder = mkdtempSync(join(tmpdir(), 'kite-trail-bench-'));
  const microphone = join(folder, 'clicks.wav');
  const clicksAt = Array.from({ length: LENGTH_SECONDS - 1 }, (_, i) => i + 0.5);
  writeClicks(microphone, LENGTH_SECONDS, clicksAt);
  const browser = await openBrowser({ microphone });
  const teacher = await Person.at(browser, 'about:blank');
  await noteClicksAndPens(teacher.page);
  await teacher.page.goto(school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  const lesson = await teacher.request<{ id: string }>('POST', '/lessons', { title: 'Clicks' });
  await teacher.page.goto(`${school.url}/lesson/${lesson.id}`);
  await teacher.press('Record this lesson');
  await teacher.find('button', 'Pause');
  await teacher.page.evaluate(() => new Promise((resolve) => setTimeout(resolve, 3000)));
  const before = (await notedBy(teacher.page)).pensDownMs.length;
  for (let n = 0; n < STROKES; n++) {
    await teacher.stroke([0.1 + (n % 10) * 0.08, 0.1], [0.12 + (n % 10) * 0.08, 0.9], 30);
  }
  const noted = await notedBy(teacher.page);
  await teacher.press('Stop');
  await teacher.page.waitForFunction(async () => {
    const answer = await fetch(`/api/lessons/${location.pathname.split('/')[2]}`);
    return (await answer.json()).takes[0]?.ended;
  });
  const [take] = (await openLesson(teacher)).takes;
  const file = join(folder, 'take.ogg');
  writeFileSync(file, await bytesAt(teacher, `/takes/${take.id}/sound`));
  const clicks = findClicks(decodeSound(file), CLOCK_HZ);
  const ink = decodeMarks(await takeMarks(teacher)).filter((mark) => mark.kind === 'ink');
  await browser.close();
  const heard = noted.clicksMs.map((atMs) => atMs / 1000);
  const offsets = noted.pensDownMs.slice(before, before + STROKES).flatMap((penMs, n) => {
    const [pen, at] = [penMs / 1000, ink[n].atSamples / CLOCK_HZ];
    if (!areEvenAround(heard, pen) || !areEvenAround(clicks, at)) return [];
    const off = at - nearest(clicks, at) - (pen - nearest(heard, pen));
    // Half-way between two clicks, another one may be the nearest: clicks are a second apart.
    return [Math.abs(off - Math.round(off)) * 1000];
  });
  return { capture_sync_p95_ms: rounded(p95(offsets)), capture_sync_strokes: offsets.length };
}
