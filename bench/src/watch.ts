import { gzipSync } from 'node:zlib';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { tide } from '@kite-trail/demo/teaching/tide';
import { openBrowser, Person } from '@kite-trail/e2e/support/browser';
import { shareFromHome } from '@kite-trail/e2e/support/watching';
import type { School } from '@kite-trail/e2e/support/school';
import { rounded } from './figures';

/** A phone on a slow school network. */
const SLOW = { offline: false, latency: 150, downloadThroughput: 1_600_000 / 8, uploadThroughput: 750_000 / 8 };

/** Opens a link on a slow network with an empty cache: until it can play, and how much script it loaded. */
export async function benchWatch(school: School): Promise<Record<string, number>> {
  const browser = await openBrowser();
  const teacher = await Person.at(browser, school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  const link = await shareFromHome(teacher, tide.title);
  await browser.close();

  const phone = await openBrowser({ size: { width: 390, height: 844 } });
  const page = await phone.newPage();
  const devtools = await page.createCDPSession();
  await devtools.send('Network.enable');
  await devtools.send('Network.emulateNetworkConditions', SLOW);
  await page.evaluateOnNewDocument(() => {
    const Original = window.Audio;
    window.Audio = class extends Original {
      constructor(source?: string) {
        super(source);
        this.addEventListener('canplay', () => Object.assign(window, { canPlayMs: performance.now() }), { once: true });
      }
    };
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
  await phone.close();
  return {
    watch_ready_ms: rounded(Math.max(pageMs, soundMs), 0),
    watch_script_kb_gz: rounded(scripts.reduce((sum, bytes) => sum + bytes, 0) / 1024, 1),
  };
}
