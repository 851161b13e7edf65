import type { PageId } from '../lesson/ids';
import { isPassing, markEndSamples, pageOf, type Mark } from '../lesson/mark';
import { secondsToSamples } from './clock';
import type { Stretch } from './edit';
import type { PageAt } from './page-at';
import type { Trail } from './trail';

/** What is written in one go on one page: the page is looked at before it, and after it. */
export interface Step extends Stretch {
  page: PageId;
}

/** Whoever writes nothing for so long has come to the end of a step. Common practice: a spoken sentence takes two to four seconds. */
const REST_SAMPLES = secondsToSamples(2);
const LONGER = 1.5;
/** More small pictures than these are not looked through. */
const MOST_STEPS = 60;

/**
 * The steps in which a trail's pages come about: a step ends where nothing is written for two seconds, or where another page is
 * written on. Of a trail with more than `most`, longer rests are looked for, until only turning to another page divides them.
 * @returns them in order, apart from one another; `toSamples` is when the last stroke is whole, within the trail
 */
export function stepsIn({ marks, lengthSamples }: Trail, most = MOST_STEPS): Step[] {
  const written = marks.filter((mark) => isWritten(mark) && mark.atSamples < lengthSamples);
  for (let rest = REST_SAMPLES; ; rest *= LONGER) {
    const steps = divided(written, rest, lengthSamples);
    if (steps.length <= most || rest > lengthSamples) return steps;
  }
}

/** Whether a change is seen on the page from then on. What was there before the trail began is no step. */
function isWritten(mark: Mark): boolean {
  if (mark.atSamples <= 0 || isPassing(mark)) return false;
  return ['ink', 'place', 'lift', 'alter', 'transform', 'arrange'].includes(mark.kind);
}

function divided(written: readonly Mark[], restSamples: number, lengthSamples: number): Step[] {
  const steps: Step[] = [];
  for (const mark of written) {
    const page = pageOf(mark)!;
    const toSamples = Math.min(markEndSamples(mark), lengthSamples);
    const last = steps.at(-1);
    if (last?.page === page && mark.atSamples - last.toSamples < restSamples) {
      last.toSamples = Math.max(last.toSamples, toSamples);
      continue;
    }
    // Two hands may write on two pages: the first stops where the other is seen.
    if (last) last.toSamples = Math.min(last.toSamples, mark.atSamples);
    steps.push({ page, fromSamples: mark.atSamples, toSamples });
  }
  return steps;
}

/** A page before a step, or after it. */
export interface StepPage extends PageAt {
  /** Which step it is, from 1. */
  n: number;
  isAfter: boolean;
  fromSamples: number;
  /** What is said then stands beside it: until the next step begins; before the first, what is said before anything is written. */
  said: Stretch;
}

/** Each page of a trail before its first step, and after each of them. */
export function stepPages(trail: Trail, most?: number): StepPage[] {
  const steps = stepsIn(trail, most);
  const begun = new Set<PageId>();
  return steps.flatMap(({ page, fromSamples, toSamples }, i) => {
    const untilSamples = steps[i + 1]?.fromSamples ?? trail.lengthSamples;
    const step = { page, isBlank: false, n: i + 1, fromSamples };
    const saidBefore = { fromSamples: 0, toSamples: i === 0 ? fromSamples : 0 };
    const saidAfter = { fromSamples, toSamples: untilSamples };
    const isFirst = !begun.has(page);
    begun.add(page);
    const before: StepPage = { ...step, atSamples: fromSamples - 1, isAfter: false, said: saidBefore };
    const after: StepPage = { ...step, atSamples: toSamples, isAfter: true, said: saidAfter };
    return isFirst ? [before, after] : [after];
  });
}
