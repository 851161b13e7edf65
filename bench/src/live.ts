import { setTimeout } from 'node:timers/promises';
import { SHOWN, type LivePage } from '@kite-trail/core/contract/live';
import type { LessonSummary } from '@kite-trail/core/contract/lesson';
import { encodeSightChange } from '@kite-trail/core/formats/sight-coding';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { newStroke } from '@kite-trail/core/lesson/piece';
import { sightChange, wholeOf, type Sight } from '@kite-trail/core/live/sight';
import { InkPoints } from '@kite-trail/core/ink/points';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { openBrowser, Person } from '@kite-trail/e2e/support/browser';
import type { School } from '@kite-trail/e2e/support/school';
import { WebSocket } from 'ws';
import { Client } from './client';
import { p95, rounded } from './figures';
import { WatchedSchool } from './watched-school';

const STROKES = 12;
const STEPS = 25;
const STEP_MS = 40;
const FOLLOWERS = 200;
const WRITTEN_FOR_MS = 30_000;
const TOLD_EVERY_MS = 33;
/** A pen of 240 Hz. */
const POINTS_EACH = 8;

/** How long it takes from a pen to another browser's painted ink; and what two hundred who follow ask of the server. */
export async function benchLive(school: School): Promise<Record<string, number>> {
  return { ...(await inkToFollower(school)), ...(await manyFollow()) };
}

async function inkToFollower(school: School): Promise<Record<string, number>> {
  const [atTeacher, atStudent] = [await openBrowser(), await openBrowser()];
  const teacher = await Person.at(atTeacher, school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  await teacher.press('New lesson');
  await teacher.fill('Name', 'Live');
  await teacher.press('Make the lesson');
  await teacher.press('Show this page live');
  await teacher.find('dialog', 'This page is shown live');
  const code = await teacher.run(() => document.querySelector('[aria-label^="Code "]')!.textContent!.replace(' ', ''));
  await teacher.press('Go on writing');
  await teacher.isGone('dialog', 'This page is shown live');
  const student = await Person.at(atStudent, `${school.url}/live/${code}`);
  await student.find('image', 'The page as it is written');
  // What compiles this file marks the names of functions, also of those that are sent to a page.
  await student.page.evaluate('globalThis.__name = (one) => one');

  // When the pen was where, and when that was to be seen elsewhere; both by the machine's own clock.
  await teacher.run(() => {
    const pens: number[] = [];
    Object.assign(window, { pens });
    addEventListener('pointermove', ({ timeStamp }) => pens.push(performance.timeOrigin + timeStamp), {
      capture: true,
    });
  });
  const delaysMs: number[] = [];
  for (let stroke = 0; stroke < STROKES; stroke++) {
    const v = 0.1 + (0.8 * stroke) / STROKES;
    const at = (step: number) => 0.1 + (0.8 * step) / STEPS;
    await student.run(
      (height, places) => {
        const watching = {
          seen: [] as number[],
          isInk: (u: number) =>
            [...document.querySelectorAll<HTMLCanvasElement>('canvas.wet, canvas.settled')].some((canvas) => {
              const [x, y] = [Math.round(u * canvas.width), Math.round(height * canvas.height) - 3];
              const { data } = canvas.getContext('2d')!.getImageData(x, y, 1, 7);
              for (let i = 0; i < data.length; i += 4) if (data[i] < 130 && data[i + 3] > 128) return true;
              return false;
            }),
          look: () => {
            const { seen } = watching;
            while (seen.length < places.length && watching.isInk(places[seen.length])) {
              seen.push(performance.timeOrigin + performance.now());
            }
            if (seen.length < places.length) requestAnimationFrame(watching.look);
          },
        };
        Object.assign(window, { seen: watching.seen });
        requestAnimationFrame(watching.look);
      },
      v,
      // A little before the pen's own place: there its ink is as broad as it becomes.
      Array.from({ length: STEPS - 1 }, (_, i) => at(i + 1) - 0.004),
    );
    await teacher.pen('mousePressed', at(0), v, 0.6);
    await teacher.run(() => void (window as unknown as { pens: number[] }).pens.splice(0));
    for (let step = 1; step <= STEPS; step++) {
      await teacher.pen('mouseMoved', at(step), v, 0.6);
      await setTimeout(STEP_MS);
    }
    await teacher.pen('mouseReleased', at(STEPS), v, 0);
    await student.page.waitForFunction(
      (all) => (window as unknown as { seen: number[] }).seen.length === all,
      {},
      STEPS - 1,
    );
    const pens = await teacher.run(() => (window as unknown as { pens: number[] }).pens);
    const seen = await student.run(() => (window as unknown as { seen: number[] }).seen);
    delaysMs.push(...seen.map((ms, i) => ms - pens[i]));
  }
  await Promise.all([atTeacher.close(), atStudent.close()]);
  return { live_ink_p95_ms: rounded(p95(delaysMs), 0) };
}

/** A page that is written on without a pause, and two hundred sockets that hear of it. */
async function manyFollow(): Promise<Record<string, number>> {
  const watched = await WatchedSchool.start();
  try {
    const { url } = watched.school;
    const teacher = new Client(url);
    await teacher.json('POST', '/session', DEMO_TEACHER);
    const [{ id }] = await teacher.json<LessonSummary[]>('GET', '/lessons');
    const { token, key } = await teacher.json<LivePage>('POST', `/lessons/${id}/live`);
    const address = `${url.replace('http', 'ws')}/api/followed/${token}`;
    const shower = await opened(`${address}/show`);
    shower.send(key);
    let heard = 0;
    const followers = await Promise.all(
      Array.from({ length: FOLLOWERS }, async () => {
        const follower = await opened(`${address}/follow`);
        follower.on('message', (_data, isBinary) => isBinary && heard++);
        return follower;
      }),
    );
    await watched.loopDelay();
    const told = await write(shower);
    const { p99Ms } = await watched.loopDelay();
    const deadlineMs = performance.now() + 10_000;
    while (heard < told * FOLLOWERS && performance.now() < deadlineMs) await setTimeout(20);
    for (const socket of [shower, ...followers]) socket.terminate();
    return { live_200_loop_p99_ms: rounded(p99Ms, 1), live_200_lost: told * FOLLOWERS - heard };
  } finally {
    await watched.school.close();
  }
}

/** @returns how much was told */
async function write(shower: WebSocket): Promise<number> {
  const say = (kind: number, bytes: Uint8Array) => shower.send(Buffer.concat([Buffer.of(kind), bytes]));
  const sightWith = (count: number): Sight => {
    const samples = Array.from({ length: count }, (_, i) => ({
      xPt: i % 900,
      yPt: i % 500,
      pressure: 0.5,
      sinceMs: 4 * i,
    }));
    const pen = { kind: 'ballpoint', color: '#1f2a44', widthPt: 2 } as const;
    const wet = count === 0 ? [] : [newStroke({ id: 'wet' as PieceId, z: 0, pen, points: InkPoints.from(samples) })];
    const state = { page: wideSquaredPage('page-of-many' as PageId), pieces: [] };
    return { state, look: null, growing: new Map(), wet, passing: [] };
  };
  let sight = sightWith(0);
  say(SHOWN.whole, encodeSightChange(wholeOf(sight)));
  const fromMs = performance.now();
  let told = 1;
  for (; performance.now() - fromMs < WRITTEN_FOR_MS; told++) {
    const next = sightWith((told % 60) * POINTS_EACH);
    say(SHOWN.change, encodeSightChange(sightChange(sight, next)!));
    sight = next;
    await setTimeout(TOLD_EVERY_MS);
  }
  return told;
}

async function opened(address: string): Promise<WebSocket> {
  const socket = new WebSocket(address);
  await new Promise((resolve, reject) => socket.once('open', resolve).once('error', reject));
  return socket;
}
