import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { noVisits, stepAt, type VisitSums } from '@kite-trail/core/trail/visits';

export interface MadeUpVisits {
  visits: number;
  sums: VisitSums;
  /** How many visits there were so many days ago. */
  daysAgo: number[];
}

const DAYS = 14;
/** Of those who watch, so many go on from step to step. */
const GOES_ON = 0.988;

/**
 * Makes up how a lesson was watched.
 * @param hardAt the moments, in samples, at which some go back and slow down
 */
export function madeUpVisits(
  lengthSamples: number,
  { visits, hardAt }: { visits: number; hardAt: readonly number[] },
  random: () => number,
): MadeUpVisits {
  const sums = noVisits(lengthSamples);
  const daysAgo = new Array<number>(DAYS).fill(0);
  const last = sums.heard.length - 1;
  const hard = new Set(hardAt.map((at) => stepAt(lengthSamples, at)));
  const back = stepAt(lengthSamples, secondsToSamples(8));
  for (let visit = 0; visit < visits; visit++) {
    // Most watch within days of the lesson.
    daysAgo[Math.min(DAYS - 1, Math.floor(DAYS * random() ** 0.6))]++;
    let step = 0;
    let furthest = 0;
    let isSlow = false;
    for (let heard = 0; heard < 4 * last; heard++) {
      sums.heard[step]++;
      if (isSlow) sums.slowed[step]++;
      furthest = Math.max(furthest, step);
      const isHard = hard.has(step);
      if (step === last || random() > (isHard ? 0.93 : GOES_ON)) break;
      if (isHard && random() < 0.35) {
        step = Math.max(0, step - back);
        sums.wentBack[step]++;
        isSlow = true;
      } else {
        step++;
        if (random() < 0.15) isSlow = false;
      }
    }
    sums.stopped[step]++;
    sums.furthest[furthest]++;
  }
  return { visits, sums, daysAgo };
}
