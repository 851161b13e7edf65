import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openBrowser } from '@kite-trail/e2e/support/browser';
import type { School } from '@kite-trail/e2e/support/school';
import { Storm } from '@kite-trail/e2e/support/storm';
import { heldBySchool, lostIn } from '@kite-trail/e2e/support/storm-losses';
import { writeSpeech } from '@kite-trail/e2e/support/wav';

const SECONDS = 90;
const SEED = 17;

/**
 * Works for a minute and a half while the network, the window, the server and the session fail. Prints how long before its
 * window went the oldest thing was done that the school does not have.
 */
export async function benchStorm(school: School): Promise<Record<string, number>> {
  const microphone = join(mkdtempSync(join(tmpdir(), 'kite-trail-bench-')), 'speech.wav');
  writeSpeech(microphone, 'volume=-6dB');
  const browser = await openBrowser({ microphone });
  const storm = new Storm(school, browser, SEED);
  const held = await heldBySchool(await storm.rage(SECONDS));
  await browser.close();
  const lostMs = lostIn(storm.logbook, held).missing.map(({ beforeGoneMs }) => beforeGoneMs);
  return { storm_lost_ms: Math.max(0, ...lostMs), storm_done: storm.logbook.done.length };
}
