import type { TakeId } from '../lesson/ids';
import { markEndSamples, type Mark } from '../lesson/mark';
import type { Stretch } from './edit';
import { msToSamples } from './clock';
import { isSilenced, placeSegments, playsAsRecorded, segmentLength, voiceOf, type Programme } from './programme';
import type { Trail } from './trail';

/** Where somebody speaks in a take, in order and apart from one another. */
export type SpeechOf = (take: TakeId) => readonly Stretch[];

/** Stretches of a programme in which somebody speaks, in order. */
export function spokenIn(programme: Programme, speechOf: SpeechOf): Stretch[] {
  const found = placeSegments(programme).flatMap(({ segment, startSamples, endSamples }) => {
    const voice = voiceOf(segment);
    if (!voice || startSamples === endSamples) return [];
    const shift = startSamples - voice.fromSamples;
    return speechOf(voice.take).flatMap(({ fromSamples, toSamples }) =>
      clipped({ fromSamples: fromSamples + shift, toSamples: toSamples + shift }, startSamples, endSamples),
    );
  });
  return united(found);
}

/** A change that stands by itself is looked at for so long. */
const NOTICED_SAMPLES = msToSamples(300);

/** Stretches of a trail in which something is seen to happen, in order. */
export function drawnIn({ marks, lengthSamples }: Trail): Stretch[] {
  const found = marks.filter(isSeen).flatMap((mark) => {
    const toSamples = Math.max(markEndSamples(mark), mark.atSamples + NOTICED_SAMPLES);
    return clipped({ fromSamples: mark.atSamples, toSamples }, 0, lengthSamples);
  });
  return united(found);
}

/** Turning to a page is nothing that needs time of its own. */
const isSeen = ({ kind, atSamples }: Mark) => kind !== 'turn' && kind !== 'add-page' && atSamples > 0;

/**
 * The pauses: where nobody speaks and nothing is drawn for at least so long. What has been quickened, silenced or inserted
 * as a still pause was meant to be as it is.
 */
export function pausesIn(programme: Programme, trail: Trail, speechOf: SpeechOf, leastSamples: number): Stretch[] {
  const busy = united([...spokenIn(programme, speechOf), ...drawnIn(trail), ...meantIn(programme)]);
  return between(busy, trail.lengthSamples).filter((one) => lengthOf(one) >= leastSamples);
}

/** Where something is written and nobody speaks, from the first stroke to the last of each such stretch. */
export function silentWritingIn(
  programme: Programme,
  trail: Trail,
  speechOf: SpeechOf,
  leastSamples: number,
): Stretch[] {
  const drawn = drawnIn(trail);
  return between(united([...spokenIn(programme, speechOf), ...meantIn(programme)]), trail.lengthSamples).flatMap(
    (gap) => {
      const inside = drawn.flatMap((one) => clipped(one, gap.fromSamples, gap.toSamples));
      if (inside.length === 0) return [];
      const found = { fromSamples: inside[0].fromSamples, toSamples: inside[inside.length - 1].toSamples };
      return lengthOf(found) >= leastSamples ? [found] : [];
    },
  );
}

/** What is left to cut of a pause when so much of it is to stay, half at either end. */
export function closing({ fromSamples, toSamples }: Stretch, staysSamples: number): Stretch {
  const before = Math.round(staysSamples / 2);
  return { fromSamples: fromSamples + before, toSamples: toSamples - (staysSamples - before) };
}

export const lengthOf = ({ fromSamples, toSamples }: Stretch): number => toSamples - fromSamples;

/** What does not play as it was recorded. */
function meantIn(programme: Programme): Stretch[] {
  return placeSegments(programme).flatMap(({ segment, startSamples, endSamples }) =>
    segmentLength(segment) > 0 && (!playsAsRecorded(segment) || isSilenced(segment))
      ? [{ fromSamples: startSamples, toSamples: endSamples }]
      : [],
  );
}

function clipped({ fromSamples, toSamples }: Stretch, from: number, to: number): Stretch[] {
  const inside = { fromSamples: Math.max(from, fromSamples), toSamples: Math.min(to, toSamples) };
  return lengthOf(inside) > 0 ? [inside] : [];
}

/** Stretches in order, with those that touch made one. */
function united(stretches: readonly Stretch[]): Stretch[] {
  const result: Stretch[] = [];
  for (const one of [...stretches].sort((a, b) => a.fromSamples - b.fromSamples)) {
    const last = result.at(-1);
    if (last && one.fromSamples <= last.toSamples) last.toSamples = Math.max(last.toSamples, one.toSamples);
    else result.push({ ...one });
  }
  return result;
}

function between(stretches: readonly Stretch[], lengthSamples: number): Stretch[] {
  const starts = [0, ...stretches.map(({ toSamples }) => toSamples)];
  const ends = [...stretches.map(({ fromSamples }) => fromSamples), lengthSamples];
  return starts.flatMap((fromSamples, i) => clipped({ fromSamples, toSamples: ends[i] }, 0, lengthSamples));
}
