import { gzipSync } from 'node:zlib';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { tide } from '@kite-trail/demo/teaching/tide';
import { openBrowser, Person } from '@kite-trail/e2e/support/browser';
import { shareFromHome } from '@kite-trail/e2e/support/watching';
import type { School } from '@kite-trail/e2e/support/school';
import { rounded } from './figures';

const ROUND_TRIP_MS = 150;

/** A phone on a school's slow network, and on one that is slower still. */
const network = (bitsPerSecond: number) => ({
  offline: false,
  latency: ROUND_TRIP_MS,
  downloadThroughput: bitsPerSecond / 8,
  uploadThroughput: bitsPerSecond / 16,
});

/** Opens a link on slow networks with an empty cache: until it can play, and how much script it loaded. */
export async function benchWatch(school: School): Promise<Record<string, number>> {
  const browser = await openBrowser();
  const teacher = await Person.at(browser, school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  const link = await shareFromHome(teacher, tide.title);
  await browser.close();
  const slow = await opened(link, 1_600_000);
  const slower = await opened(link, 500_000);
  return {
    watch_ready_ms: rounded(slow.readyMs, 0),
    watch_ready_half_mbit_ms: rounded(slower.readyMs, 0),
    watch_script_kb_gz: rounded(slow.scriptKb, 1),
  };
}

async function opened(link: string, bitsPerSecond: number): Promise<{ readyMs: number; scriptKb: number }> {
  const phone = await openBrowser({ size: { width: 390, height: 844 } });
  const page = await phone.newPage();
  const devtools = await page.createCDPSession();
  await devtools.send('Network.enable');
  await devtools.send('Network.emulateNetworkConditions', network(bitsPerSecond));
  await page.evaluateOnNewDocument(() => {
    document.addEventListener('canplay', () => Object.assign(window, { canPlayMs: performance.now() }), {
      capture: true,
      once: true,
    });
  });
  const scripts: number[] = [];
  page.on('response', (response) => {
    if (response.request().resourceType() !== 'script') return;
    void response.buffer().then((bytes) => scripts.push(gzipSync(bytes).length));
  });
  await page.goto(link, { waitUntil: 'domcontentloaded' });
  await page.waitForSelector('::-p-aria([name="Play"][role="button"])');
  const pageMs = await page.evaluate(() => performance.now());
  await page.waitForFunction(() => (window as unknown as { canPlayMs?: number }).canPlayMs !== undefined);
  const soundMs = await page.evaluate(() => (window as unknown as { canPlayMs: number }).canPlayMs);
  await page.waitForNetworkIdle();
  await phone.close();
  return { readyMs: Math.max(pageMs, soundMs), scriptKb: scripts.reduce((sum, bytes) => sum + bytes, 0) / 1024 };
}
