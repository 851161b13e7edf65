import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { openBrowser, Person } from '@kite-trail/e2e/support/browser';
import { openLesson } from '@kite-trail/e2e/support/lessons';
import type { School } from '@kite-trail/e2e/support/school';
import { writeSpeech } from '@kite-trail/e2e/support/wav';
import type { Page } from 'puppeteer-core';
import { p95, rounded } from './figures';
import { takeSpentMs, timePenHandlers } from './pen-handlers';

/** The hour is recorded in so many times less: the sound card's clock is a simulated one. */
const SPEED = 12;
const MINUTES = 60;
const STROKES = 5000;
const PAGES = 20;
/** The first minutes fill what is filled once; from then on it should be flat. */
const SETTLED_AFTER = 1 / 6;

/**
 * Records an hour with 5,000 strokes on 20 pages through the real recorder, encoder, journal and server; only the sound card
 * is simulated, and runs twelve times as fast. Prints how much the page's heap grew since the tenth minute, and how long
 * pen events take at the start and at the end.
 */
export async function benchLongRecording(school: School): Promise<Record<string, number>> {
  const microphone = join(mkdtempSync(join(tmpdir(), 'kite-trail-bench-')), 'speech.wav');
  writeSpeech(microphone, 'volume=-6dB');
  const browser = await openBrowser({ microphone });
  const teacher = await Person.at(browser, 'about:blank');
  await simulateSoundCard(teacher.page);
  await timePenHandlers(teacher.page);
  await teacher.page.goto(school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  const lesson = await teacher.request<{ id: string }>('POST', '/lessons', { title: 'An hour, recorded' });
  await teacher.page.goto(`${school.url}/lesson/${lesson.id}`);
  await teacher.press('Record this lesson');
  await teacher.find('button', 'Pause');
  const devtools = await teacher.page.createCDPSession();
  const heapMb = async () => {
    await devtools.send('HeapProfiler.collectGarbage');
    return (await devtools.send('Runtime.getHeapUsage')).usedSize / 2 ** 20;
  };
  const everyMs = (MINUTES * 60_000) / SPEED / STROKES;
  const beganMs = Date.now();
  let settledMb = 0;
  let firstMs: number[] = [];
  const box = await teacher.board();
  for (let n = 0; n < STROKES; n++) {
    if (n > 0 && n % (STROKES / PAGES) === 0) await teacher.page.keyboard.press('n');
    const [x, y] = [box.x + 20 + ((n * 37) % (box.width - 80)), box.y + 20 + ((n * 53) % (box.height - 60))];
    await teacher.penAt('mousePressed', x, y, 0.4);
    for (let i = 1; i <= 6; i++) await teacher.penAt('mouseMoved', x + i * 6, y + (i % 3) * 7, 0.5);
    await teacher.penAt('mouseReleased', x + 36, y, 0);
    if (n === 200) firstMs = await takeSpentMs(teacher.page);
    if (n === STROKES - 200) await takeSpentMs(teacher.page);
    if (n === STROKES * SETTLED_AFTER || (n > STROKES * SETTLED_AFTER && settledMb === 0)) settledMb = await heapMb();
    const remainingMs = beganMs + (n + 1) * everyMs - Date.now();
    if (remainingMs > 5) await new Promise((resolve) => setTimeout(resolve, remainingMs));
  }
  const lastMs = await takeSpentMs(teacher.page);
  const growthMb = (await heapMb()) - settledMb;
  await teacher.press('Stop');
  await teacher.page.waitForFunction(
    async () => {
      const answer = await fetch(`/api/lessons/${location.pathname.split('/')[2]}`);
      return (await answer.json()).takes[0]?.ended;
    },
    { timeout: 120_000, polling: 1000 },
  );
  const [take] = (await openLesson(teacher)).takes;
  await browser.close();
  return {
    record_60min_heap_growth_mb: rounded(growthMb, 1),
    record_60min_minutes: rounded(take.lengthSamples / CLOCK_HZ / 60, 1),
    record_60min_pen_p95_first_ms: rounded(p95(firstMs)),
    record_60min_pen_p95_last_ms: rounded(p95(lastMs)),
  };
}

/** In place of the browser's audio graph: one whose clock runs fast, and whose capture node posts blocks of speech-like noise. */
async function simulateSoundCard(page: Page): Promise<void> {
  // What the compiler names classes by, which the page does not know.
  await page.evaluateOnNewDocument('globalThis.__name ??= (named) => named');
  await page.evaluateOnNewDocument((speed) => {
    const BLOCK_SAMPLES = 2048;
    const HZ = 48_000;
    class Node {
      connect(to: unknown) {
        return to;
      }
      disconnect() {}
    }
    class FastContext extends EventTarget {
      readonly beganMs = performance.now();
      readonly audioWorklet = { addModule: () => Promise.resolve() };
      readonly destination = new Node();
      readonly state = 'running';
      readonly outputLatency = 0;
      readonly baseLatency = 0;
      get currentTime() {
        return ((performance.now() - this.beganMs) / 1000) * speed;
      }
      getOutputTimestamp() {
        return { contextTime: this.currentTime, performanceTime: performance.now() };
      }
      createMediaStreamSource() {
        return new Node();
      }
      resume() {
        return Promise.resolve();
      }
      close() {
        return Promise.resolve();
      }
    }
    class FastNode extends Node {
      readonly port: { onmessage: (event: { data: unknown }) => void; postMessage: (order: unknown) => void };
      private timer = 0;
      private frame = 0;
      constructor(private readonly context: FastContext) {
        super();
        this.port = { onmessage: () => {}, postMessage: (order) => this.obey(order) };
      }
      private obey(order: unknown) {
        clearInterval(this.timer);
        if (order === 'stop') return this.post(true);
        this.frame = Math.round((this.context.currentTime * HZ) / 128) * 128;
        this.timer = window.setInterval(() => {
          while ((this.frame + BLOCK_SAMPLES) / HZ < this.context.currentTime) this.post(false);
        }, 20);
      }
      private post(last: boolean) {
        const samples = Float32Array.from({ length: BLOCK_SAMPLES }, () => Math.random() * 0.2 - 0.1);
        this.port.onmessage({ data: { firstFrame: this.frame, samples, last } });
        this.frame += BLOCK_SAMPLES;
      }
    }
    Object.assign(window, {
      AudioContext: FastContext,
      AudioWorkletNode: FastNode,
      MediaStreamTrackProcessor: undefined,
    });
  }, SPEED);
}
