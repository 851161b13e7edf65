import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { CaptionId } from '@kite-trail/core/lesson/ids';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { cut, dividedAt } from '@kite-trail/core/trail/edit';
import type { Edition } from '@kite-trail/core/trail/edition';
import { programmeLength, type Programme } from '@kite-trail/core/trail/programme';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { openBrowser, Person } from '@kite-trail/e2e/support/browser';
import type { School } from '@kite-trail/e2e/support/school';
import type { KeyInput } from 'puppeteer-core';
import { median, p95, rounded } from './figures';
import { keepLongLesson } from './long-lesson';

const SEGMENTS = 200;
const CAPTIONS = 600;
/** Every visit begins with edits that this window has not made before. */
const VISITS = 5;
const ROUNDS = 2;
/** Nobody has found what to cut sooner after the trail is there. */
const LOOKED_MS = 3000;
/** No hand is faster: from one thing to the next, and from a button's being pressed to its being let go. */
const BETWEEN_MS = 300;
const PRESS_MS = 80;

/** An edit, by the key or the button that makes it. */
interface Act {
  by: 'keydown' | 'click';
  make: (teacher: Person) => Promise<void>;
  held?: 'Shift' | 'Control';
}
const byKey = (key: KeyInput, held?: Act['held']): Act => ({
  by: 'keydown',
  make: ({ page }) => page.keyboard.press(key),
  held,
});
const byButton = (name: string): Act => ({
  by: 'click',
  make: async (teacher) => (await teacher.find('button', name)).click({ delay: PRESS_MS }),
});

const CUT_AND_KEEP = byKey('Delete');
const CUT_WITH_INK = byKey('Delete', 'Shift');
const UNDO = byKey('KeyZ', 'Control');
const SPLIT = byKey('KeyS');
const SILENCE = byButton('Silence');
const ACTS = [CUT_AND_KEEP, UNDO, CUT_WITH_INK, SPLIT, SILENCE, byButton('Repeat')];

/** Opens the trail of an hour of 200 segments and 600 captions, and edits it: how long until it is seen. */
export async function benchTrim(school: School): Promise<Record<string, number>> {
  const { id } = await keepLongLesson(school);
  const browser = await openBrowser();
  const teacher = await Person.at(browser, school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  await divide(teacher, id);
  const sinceOpened = (selector: string) =>
    teacher.page
      .waitForFunction(
        (wanted) => document.querySelector(wanted) !== null && performance.now(),
        {
          polling: 'raf',
          timeout: 120_000,
        },
        selector,
      )
      .then((found) => found.jsonValue() as Promise<number>);
  // At the first visit after a recording broke off, what was not heard of it is listened to; from then on that is known.
  const listened = teacher.page.waitForResponse((answer) => answer.url().endsWith('/profile') && answer.ok(), {
    timeout: 120_000,
  });
  await teacher.page.goto(`${school.url}/lesson/${id}`);
  const firstMs = await sinceOpened('[aria-label=Trail][aria-busy=false]');
  await listened;
  await teacher.page.reload();
  const usableMs = await sinceOpened('.editor [aria-label=Playhead]');
  const waveformMs = await sinceOpened('[aria-label=Trail][aria-busy=false]');
  const before = await teacher.request<LessonDocument>('GET', `/lessons/${id}`);
  const spent: Spent[] = [];
  for (let visit = 0; visit < VISITS; visit++) {
    if (visit > 0) {
      await teacher.page.reload();
      await sinceOpened('[aria-label=Trail][aria-busy=false]');
    }
    await new Promise((resolve) => setTimeout(resolve, LOOKED_MS));
    spent.push(...(await editedAt(teacher, (visit + 0.5) / VISITS)));
    await teacher.sees('Saved');
  }
  const { edit } = await teacher.request<LessonDocument>('GET', `/lessons/${id}`);
  // What is undone takes its edit along.
  const undone = (2 * spent.length) / ACTS.length;
  if (edit.n !== before.edit.n + spent.length - undone) throw new Error('Not all edits were made.');
  await browser.close();
  return {
    trail_60min_usable_ms: rounded(usableMs, 0),
    waveform_60min_s: rounded(waveformMs / 1000),
    waveform_60min_broken_off_s: rounded(firstMs / 1000),
    edit_apply_p95_ms: rounded(p95(spent.map(({ appliedMs }) => appliedMs))),
    edit_painted_median_ms: rounded(median(spent.map(({ paintedMs }) => paintedMs))),
    edit_painted_p95_ms: rounded(p95(spent.map(({ paintedMs }) => paintedMs))),
  };
}

interface Spent {
  appliedMs: number;
  paintedMs: number;
}

/** Makes edits of all kinds, one beside the other around a place along the trail. */
async function editedAt(teacher: Person, along: number): Promise<Spent[]> {
  const spent: Spent[] = [];
  const total = () => teacher.page.$eval('.clock .of', (one) => one.textContent);
  const { x, y, width, height } = (await (await teacher.page.$('.editor canvas'))!.boundingBox())!;
  for (let round = 0; round < ROUNDS; round++) {
    for (const act of ACTS) {
      const place = along + (spent.length / (ROUNDS * ACTS.length) - 0.5) / VISITS;
      await teacher.page.mouse.click(x + width * (0.01 + 0.98 * place), y + height / 2);
      if (act !== UNDO && act !== SPLIT) await teacher.press('Choose this part');
      await new Promise((resolve) => setTimeout(resolve, BETWEEN_MS));
      const totalBefore = await total();
      spent.push(await timed(teacher, act));
      const staysAsLong = act === SPLIT || act === SILENCE;
      if (!staysAsLong && (await total()) === totalBefore) throw new Error('The edit was not shown.');
    }
  }
  return spent;
}

/**
 * Makes an edit. @returns how long it takes until page, trail and times are as they are to be, and from the key or the click
 * to the paint that shows it, as the browser itself says (W3C Event Timing), to 8 ms
 */
async function timed(teacher: Person, { by, make, held }: Act): Promise<Spent> {
  if (held) await teacher.page.keyboard.down(held);
  await teacher.page.evaluate((kind) => {
    const found = { appliedMs: 0, paintedMs: 0 };
    Object.assign(window, { found });
    // Listeners are called in turn, and what one leads to at once (microtasks) is done before the next is called.
    let start = 0;
    window.addEventListener(
      kind,
      (event) => {
        start = performance.now();
        window.addEventListener(kind, () => (found.appliedMs = performance.now() - start), { once: true });
        new PerformanceObserver((list) => {
          // What was pressed before may be told of late.
          const own = list.getEntries().find((one) => one.name === kind && one.startTime === event.timeStamp);
          if (own) found.paintedMs = own.duration;
        }).observe({ type: 'event', durationThreshold: 16 } as PerformanceObserverInit);
      },
      { capture: true, once: true },
    );
  }, by);
  await make(teacher);
  if (held) await teacher.page.keyboard.up(held);
  const found = await teacher.page.waitForFunction(
    () => {
      const { found } = window as unknown as { found: Spent };
      return found.appliedMs > 0 && found.paintedMs > 0 && found;
    },
    { polling: 50 },
  );
  return (await found.jsonValue()) as Spent;
}

/** Edits as a teacher who has closed many pauses, and has written captions. */
export async function divide(teacher: Person, lesson: string): Promise<void> {
  const { edition, edit } = await teacher.request<LessonDocument>('GET', `/lessons/${lesson}`);
  const length = programmeLength(edition.programme);
  const [whole] = edition.programme;
  let programme: Programme = edition.programme;
  // A cut whose ink is kept and a split near it make three segments more.
  const cuts = Math.ceil(SEGMENTS / 3);
  for (let n = cuts; n > 0; n--) {
    const at = Math.round((n / (cuts + 1)) * length);
    programme = cut(programme, { fromSamples: at, toSamples: at + CLOCK_HZ }, 'keep');
    programme = dividedAt(programme, at - 8 * CLOCK_HZ);
  }
  const captions = Array.from({ length: CAPTIONS }, (_, n) => {
    const fromSamples = Math.round((n / CAPTIONS) * length);
    const spans = [{ take: whole.take, fromSamples, toSamples: fromSamples + 4 * CLOCK_HZ }];
    return { id: `caption-${String(n).padStart(4, '0')}` as CaptionId, text: `Fathoms, part ${n}.`, spans };
  });
  await teacher.request('PUT', `/lessons/${lesson}/edition`, {
    from: edit,
    edition: { ...(edition as Edition), programme, captions },
  });
}
