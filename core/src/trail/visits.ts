import { secondsToSamples } from './clock';
import { placeSegments, programmeLength, toTake, whenPlayed, type PlacedSegment, type Programme } from './programme';

/** A lesson is counted in so many steps at most, none shorter than this. */
export const MOST_STEPS = 200;
const LEAST_STEP_SAMPLES = secondsToSamples(2);

/** How many steps a lesson of some length, in samples, is counted in. They are all of the same length. */
export const stepCount = (lengthSamples: number): number =>
  Math.min(MOST_STEPS, Math.max(1, Math.ceil(lengthSamples / LEAST_STEP_SAMPLES)));

/** In which step a moment lies. */
export function stepAt(lengthSamples: number, atSamples: number): number {
  const steps = stepCount(lengthSamples);
  return Math.min(steps - 1, Math.max(0, Math.floor((atSamples / Math.max(1, lengthSamples)) * steps)));
}

/** How a lesson was watched, all visits together: each list has a number for each step. */
export interface VisitSums {
  /** How often it was heard. */
  heard: number[];
  /** How often somebody went back to it. */
  wentBack: number[];
  /** How often it was heard slower than it was spoken. */
  slowed: number[];
  /** How many visits ended there. */
  stopped: number[];
  /** How many visits came no further. */
  furthest: number[];
}

export const SUMS = ['heard', 'wentBack', 'slowed', 'stopped', 'furthest'] as const satisfies (keyof VisitSums)[];

export function noVisits(lengthSamples: number): VisitSums {
  const none = () => new Array<number>(stepCount(lengthSamples)).fill(0);
  return { heard: none(), wentBack: none(), slowed: none(), stopped: none(), furthest: none() };
}

/** Sums of the same lesson together. */
export function addedSums(one: VisitSums, other: VisitSums): VisitSums {
  const added = (key: keyof VisitSums) => one[key].map((count, step) => count + (other[key][step] ?? 0));
  const [heard, wentBack, slowed, stopped, furthest] = SUMS.map(added);
  return { heard, wentBack, slowed, stopped, furthest };
}

/**
 * What was counted of one programme, as if it had been counted of another one of the same takes: a lesson that was edited meanwhile.
 * How often something was heard is looked up for each of the new steps. What happened once at a place is counted once, where that
 * place plays now; where it has been cut out, at what follows, or at the end.
 */
export function sumsFor(programme: Programme, counted: Programme, sums: VisitSums): VisitSums {
  const [now, then] = [placeSegments(programme), placeSegments(counted)];
  const [length, lengthThen] = [programmeLength(programme), programmeLength(counted)];
  const steps = stepCount(length);
  const middles = (of: number) =>
    Array.from({ length: stepCount(of) }, (_, step) => (of * (step + 0.5)) / stepCount(of));

  const thenAt = middles(length).map((at) => {
    const found = placeAgain(now, then, at);
    return found === null ? null : stepAt(lengthThen, found);
  });
  const lookedUp = (counts: readonly number[]) => thenAt.map((step) => (step === null ? 0 : (counts[step] ?? 0)));

  const found = middles(lengthThen).map((at) => placeAgain(then, now, at));
  // What follows the last step that plays is the end.
  const nowAt = new Array<number>(found.length);
  for (let step = found.length - 1, next = steps - 1; step >= 0; step--) {
    const at = found[step];
    if (at !== null) next = stepAt(length, at);
    nowAt[step] = next;
  }
  const moved = (counts: readonly number[]) => {
    const sum = new Array<number>(steps).fill(0);
    nowAt.forEach((step, i) => (sum[step] += counts[i] ?? 0));
    return sum;
  };
  return {
    heard: lookedUp(sums.heard),
    wentBack: moved(sums.wentBack),
    slowed: lookedUp(sums.slowed),
    stopped: moved(sums.stopped),
    furthest: moved(sums.furthest),
  };
}

/** Where what one programme plays at a moment is played by another, in samples, or `null` where it is not. */
function placeAgain(from: readonly PlacedSegment[], to: readonly PlacedSegment[], atSamples: number): number | null {
  const played = toTake(from, atSamples);
  if (!played) return null;
  return whenPlayed(to, { take: played.placed.segment.take, atSamples: played.takeSamples });
}
