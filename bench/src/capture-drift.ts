import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { seeded } from '@kite-trail/core/random/seeded';
import { ClockFit } from '@kite-trail/web/capture/clock-fit';
import { TakeClock } from '@kite-trail/web/capture/take-clock';
import { rounded } from './figures';

/** A cheap sound card's clock against the computer's (common practice: crystals are good to ± 100 ppm). */
const SKEW = 80e-6;
const HOUR_MS = 3_600_000;
const TIE_EVERY_MS = 100;
const BLOCK = 2048;
/** From a sound to its sample, as stated by the browser. */
const DELAY_SECONDS = 0.03;

/** An hour of a sound card that runs fast: how far marks are from where they belong, in its last minute against its first. */
export function benchCaptureDrift(): Record<string, number> {
  const random = seeded(11);
  const [fit, clock] = [new ClockFit(), new TakeClock()];
  const contextSeconds = (ms: number) => (ms / 1000) * (1 + SKEW);
  const errorsMs: { atMs: number; ms: number }[] = [];
  let frame = 0;
  for (let atMs = 0; atMs < HOUR_MS; atMs += TIE_EVERY_MS) {
    // Readings scatter by a tenth of a millisecond, as was measured.
    fit.add(atMs + (random() - 0.5) * 0.2, contextSeconds(atMs));
    while ((frame + BLOCK) / CLOCK_HZ <= contextSeconds(atMs)) {
      clock.count(frame, BLOCK);
      frame += BLOCK;
    }
    clock.follow(fit.aheadSecondsAt(atMs) + DELAY_SECONDS, atMs);
    const penMs = atMs + random() * TIE_EVERY_MS;
    const meant = (contextSeconds(penMs) + DELAY_SECONDS) * CLOCK_HZ;
    if (atMs > 2000) errorsMs.push({ atMs, ms: ((clock.samplesAt(penMs) - meant) / CLOCK_HZ) * 1000 });
  }
  const mean = (fromMs: number, toMs: number) => {
    const some = errorsMs.filter(({ atMs }) => atMs >= fromMs && atMs < toMs);
    return some.reduce((sum, { ms }) => sum + ms, 0) / some.length;
  };
  return {
    capture_drift_60min_ms: rounded(Math.abs(mean(HOUR_MS - 60_000, HOUR_MS) - mean(0, 60_000)), 3),
    capture_drift_60min_worst_ms: rounded(Math.max(...errorsMs.map(({ ms }) => Math.abs(ms))), 3),
  };
}
