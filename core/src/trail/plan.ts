import type { PageId, TakeId } from '../lesson/ids';
import type { Mark } from '../lesson/mark';
import type { Scene } from '../lesson/scene';
import { joined, pagesOf, slice, split, whole } from './edit';
import {
  placeSegments,
  programmeLength,
  rangeOf,
  segmentLength,
  takesTime,
  voiceOf,
  type Programme,
  type Segment,
} from './programme';
import type { Take } from './take';
import { sceneBefore, Timeline } from './timeline';
import { flatten } from './trail';

/** The ink waited while the voice went on. */
export interface Hold {
  /** Where in the stretch the ink stood. */
  atSamples: number;
  forSamples: number;
}

/** What was decided when a take was begun: where in the programme it is to play. */
export type TakePlan =
  /** At the end. */
  | { kind: 'carry-on' }
  /** Between what is before and behind a moment. */
  | { kind: 'insert'; atSamples: number }
  /** Instead of a stretch of the programme. */
  | { kind: 'retake'; fromSamples: number; replaced: Programme }
  /** With a stretch's voice, and new ink. */
  | { kind: 're-ink'; fromSamples: number; replaced: Programme }
  /** With a stretch's ink, and a new voice. */
  | { kind: 're-speak'; fromSamples: number; replaced: Programme; holds: readonly Hold[] };

/** A plan that does a stretch over. */
export type StretchPlan = Extract<TakePlan, { replaced: Programme }>;

export const isStretchPlan = (plan: TakePlan): plan is StretchPlan => 'replaced' in plan;

/** A take with its plan, as far as a programme is concerned. */
export interface PlannedTake {
  id: TakeId;
  lengthSamples: number;
  plan: TakePlan;
}

/**
 * What an ended take plays as, in the place of what its plan replaces.
 *
 * A retake keeps the pages that were made in the stretch, for what follows may need them. A new voice lies over the ink of
 * the stretch as far as it was spoken; what is left of the stretch stays as it was, and where the voice is longer the ink
 * waits. New ink lies over the stretch's voice; what was written when the voice had ended plays in silence.
 */
export function runOf(take: PlannedTake): Programme {
  const { plan } = take;
  switch (plan.kind) {
    case 'carry-on':
    case 'insert':
      return [whole(take)];
    case 'retake':
      return [...plan.replaced.map(pagesOf), whole(take)];
    case 're-ink':
      return [...plan.replaced.map(pagesOf), ...inked(plan.replaced, take)];
    case 're-speak':
      return spoken(plan.replaced, take, plan.holds);
  }
}

/** Ink that was written this shortly after the voice had ended takes no time of its own. */
const TAIL_SAMPLES = 24_000;

function inked(stretch: Programme, { id, lengthSamples }: PlannedTake): Programme {
  const run: Segment[] = [];
  let at = 0;
  for (const segment of split(stretch, lengthSamples).before) {
    const toSamples = at + segmentLength(segment);
    if (toSamples === at) continue;
    run.push({ kind: 'play', take: id, fromSamples: at, toSamples, pace: 1, voice: voiceOf(segment) ?? undefined });
    at = toSamples;
  }
  if (at < lengthSamples) {
    const rest = { take: id, fromSamples: at, toSamples: lengthSamples };
    run.push(lengthSamples - at < TAIL_SAMPLES ? { kind: 'at-once', ...rest } : { kind: 'play', ...rest, pace: 1 });
  }
  return joined([...run, ...split(stretch, lengthSamples).after]);
}

function spoken(stretch: Programme, { id, lengthSamples }: PlannedTake, holds: readonly Hold[]): Programme {
  const inkLength = programmeLength(stretch);
  const run: Segment[] = [];
  let rest = stretch;
  let [inkAt, voiceAt] = [0, 0];
  const speakUntil = (inkSamples: number) => {
    const { before, after } = split(rest, Math.min(inkSamples - inkAt, lengthSamples - voiceAt));
    for (const segment of before) {
      const length = segmentLength(segment);
      const fromSamples = Math.max(0, Math.min(voiceAt, lengthSamples - length));
      run.push(takesTime(segment) && length > 0 ? { ...segment, voice: { take: id, fromSamples } } : segment);
      [inkAt, voiceAt] = [inkAt + length, voiceAt + length];
    }
    rest = after;
  };
  const waitUntil = (voiceSamples: number) => {
    const toSamples = Math.min(voiceSamples, lengthSamples);
    if (toSamples > voiceAt) run.push({ kind: 'play', take: id, fromSamples: voiceAt, toSamples, pace: 1 });
    voiceAt = Math.max(voiceAt, toSamples);
  };
  for (const { atSamples, forSamples } of holds) {
    speakUntil(Math.min(atSamples, inkLength));
    waitUntil(voiceAt + forSamples);
  }
  speakUntil(inkLength);
  if (rest.length === 0) waitUntil(lengthSamples);
  return joined([...run, ...rest]);
}

/**
 * The programme with a take in its place.
 * @returns `null` where the stretch it was made for is no longer in the programme: then it is kept, but not played
 */
export function placeTake(programme: Programme, take: PlannedTake): Programme | null {
  const { plan } = take;
  if (plan.kind === 'carry-on') return joined([...programme, ...runOf(take)]);
  if (plan.kind === 'insert') {
    const { before, after } = split(programme, plan.atSamples);
    return joined([...before, ...runOf(take), ...after]);
  }
  const { before, after } = split(programme, plan.fromSamples);
  const rest = split(after, programmeLength(plan.replaced));
  if (!areAlike(rest.before, plan.replaced)) return null;
  return joined([...before, ...runOf(take), ...rest.after]);
}

/**
 * The programme with a take in the place of another one, which was made of the beginning of the same recording.
 * @returns `null` where that one does not play as it was recorded: then the take is kept, but not played
 */
export const placeInstead = (programme: Programme, take: PlannedTake, other: PlannedTake): Programme | null =>
  swap(programme, runOf(other), runOf(take));

/** The plan by which such a take, and the other one, can be chosen between afterwards. */
export function planInstead(programme: Programme, plan: TakePlan, other: PlannedTake): TakePlan {
  if (isStretchPlan(plan)) return plan;
  const at = placeSegments(programme).find(({ segment }) => segment.take === other.id);
  return { kind: 'retake', fromSamples: at?.startSamples ?? 0, replaced: runOf(other) };
}

/**
 * What lies on the desk when a take of this plan begins: all that was written before, on the page shown then. Of the pages
 * made in a stretch that is done over, those are there that it begins on or that what follows needs.
 */
export function openingScene(
  base: Scene,
  programme: Programme,
  takes: ReadonlyMap<TakeId, Take>,
  plan: TakePlan,
): Scene {
  if (plan.kind === 'carry-on') return sceneBefore(base, programme, programme.length, takes);
  const fromSamples = plan.kind === 'insert' ? plan.atSamples : plan.fromSamples;
  const { shown } = new Timeline(base, flatten(programme, takes)).at(fromSamples).scene;
  const opening: Take = {
    id: 'opening' as TakeId,
    lengthSamples: 0,
    sound: null,
    marks: [{ kind: 'turn', page: shown, atSamples: 0 }],
  };
  const { before, after } = split(programme, fromSamples);
  const replaced = isStretchPlan(plan) ? plan.replaced : [];
  const rest = split(after, programmeLength(replaced)).after;
  const begun = [...before, ...replaced.map(pagesOf), whole(opening)];
  const all = new Map(takes).set(opening.id, opening);
  return sceneBefore(base, [...begun, ...rest], begun.length, all);
}

/** A plan for doing the stretch between two moments over. */
export function planFor(
  kind: StretchPlan['kind'],
  programme: Programme,
  fromSamples: number,
  toSamples: number,
): StretchPlan {
  const replaced = slice(programme, fromSamples, toSamples);
  return kind === 're-speak' ? { kind, fromSamples, replaced, holds: [] } : { kind, fromSamples, replaced };
}

/**
 * The programme playing a take that it did not play: in the place of what was done over with it or instead of it, or else
 * whole at the end.
 * @param takes all takes of the lesson, this one among them
 */
export function useTake(programme: Programme, id: TakeId, takes: readonly PlannedTake[]): Programme {
  const take = takes.find((one) => one.id === id);
  if (!take) throw new Error(`There is no take ${id}.`);
  const [own, ...others] = standIns(take, takes);
  for (const other of others) {
    const swapped = swap(programme, other, own);
    if (swapped) return swapped;
  }
  return joined([...programme, whole(take)]);
}

/** The runs that can play where a take's own (the first of them) could: what it replaced, what replaced it, and so on. */
function standIns(take: PlannedTake, takes: readonly PlannedTake[]): Programme[] {
  const redone = takes.flatMap((one) => (isStretchPlan(one.plan) ? [{ was: one.plan.replaced, is: runOf(one) }] : []));
  const asOriginal = redone.find(({ was }) => was.some((segment) => segment.take === take.id));
  const found: Programme[] = [isStretchPlan(take.plan) || !asOriginal ? runOf(take) : asOriginal.was];
  for (let at = 0; at < found.length; at++) {
    for (const { was, is } of redone) {
      const next = areAlike(found[at], was) ? is : areAlike(found[at], is) ? was : null;
      if (next && !found.some((one) => areAlike(one, next))) found.push(next);
    }
  }
  return found;
}

/** The programme with one run in the place of another; `null` where that one does not play. */
function swap(programme: Programme, run: Programme, other: Programme): Programme | null {
  const length = programmeLength(run);
  const first = run.find((segment) => segmentLength(segment) > 0);
  if (!first) return null;
  for (const { segment, startSamples } of placeSegments(programme)) {
    for (const into of placesWithin(segment, first)) {
      const { before, after } = split(programme, startSamples + into);
      const rest = split(after, length);
      if (areAlike(rest.before, run)) return joined([...withoutPagesFor(before, run, other), ...other, ...rest.after]);
    }
  }
  return null;
}

/** How far into a segment, in samples of the programme, another one may begin that was divided from it. */
function placesWithin(segment: Segment, part: Segment): number[] {
  if (segment.take !== part.take) return [];
  if (segment.kind === 'play' && part.kind === 'play') {
    const offset = part.fromSamples - segment.fromSamples;
    const isWithin = segment.pace === part.pace && offset >= 0 && part.fromSamples < segment.toSamples;
    return isWithin ? [Math.round(offset / segment.pace)] : [];
  }
  if (segment.kind !== 'still' || part.kind !== 'still' || segment.atSamples !== part.atSamples) return [];
  // A still looks alike all along: only a voice over it tells where. Without one it was divided at its end or its beginning.
  const spoken = segment.voice && part.voice ? [part.voice.fromSamples - segment.voice.fromSamples] : [];
  const longest = segment.forSamples - part.forSamples;
  return [...spoken, longest, 0].filter((into) => into >= 0 && into <= longest);
}

/** Pages that were kept for the run's sake go with it, and so do those that now play again. */
function withoutPagesFor(before: Programme, run: Programme, other: Programme): Programme {
  const isCovered = (pages: Segment) => {
    const made = rangeOf(pages);
    return other.some((segment) => {
      const { fromSamples, toSamples } = rangeOf(segment);
      const isAround = fromSamples <= made.fromSamples && toSamples >= made.toSamples;
      return segment.kind !== 'pages' && segment.take === pages.take && isAround;
    });
  };
  const isOwn = (pages: Segment) => {
    const { fromSamples, toSamples } = rangeOf(pages);
    return run.some((one) => {
      const own = rangeOf(one);
      const isSame = own.fromSamples === fromSamples && own.toSamples === toSamples;
      return one.kind === 'pages' && one.take === pages.take && isSame;
    });
  };
  const kept = before.findLastIndex(({ kind }) => kind !== 'pages') + 1;
  return [...before.slice(0, kept), ...before.slice(kept).filter((pages) => !isOwn(pages) && !isCovered(pages))];
}

/** Whether two runs play the same, whatever takes no time. */
function areAlike(one: Programme, other: Programme): boolean {
  const told = (programme: Programme) =>
    joined(programme.filter((segment) => segmentLength(segment) > 0)).map((segment) => {
      const { fromSamples, toSamples } = rangeOf(segment);
      const pace = segment.kind === 'play' ? segment.pace : null;
      const voice = voiceOf(segment);
      const spoken = [voice?.take, voice?.fromSamples];
      return [segment.kind, segment.take, fromSamples, toSamples, pace, segmentLength(segment), spoken];
    });
  return JSON.stringify(told(one)) === JSON.stringify(told(other));
}

/**
 * What a take begins with: where it carries on, what was changed since the one before; and the page it begins on, where old ink does
 * not turn the pages.
 * @param between what was changed since the last take
 * @param shown the page it begins on
 * @returns marks at sample 0
 */
export const openingMarks = (plan: TakePlan, between: readonly Mark[], shown: PageId): Mark[] => [
  ...(plan.kind === 'carry-on' ? between.map((mark) => ({ ...mark, atSamples: 0 })) : []),
  ...(plan.kind === 're-speak' ? [] : [{ kind: 'turn', page: shown, atSamples: 0 } as const]),
];
