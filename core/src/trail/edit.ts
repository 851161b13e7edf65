import type { TakeId } from '../lesson/ids';
import {
  marksGoOn,
  placeSegments,
  programmeLength,
  segmentLength,
  voiceGoesOn,
  type Programme,
  type Segment,
} from './programme';

/**
 * Trims the programme to `[fromSamples, toSamples)` of its own time. What was written before the new start stays: it is
 * on the page at once. What comes after the new end is left out.
 * @throws RangeError when nothing would be left
 */
export function trim(programme: Programme, fromSamples: number, toSamples: number): Programme {
  const from = Math.max(0, Math.round(fromSamples));
  const to = Math.min(programmeLength(programme), Math.round(toSamples));
  if (to <= from) throw new RangeError('A trim must leave something to play.');
  const before = split(programme, from);
  const rest = split(before.after, to - from);
  return joined([...before.before.map(atOnce), ...rest.before]);
}

function atOnce({ take, fromSamples, toSamples, pace }: Segment): Segment {
  return { take, fromSamples, toSamples, pace: pace === 'pages' ? 'pages' : 'at-once' };
}

/** Divides a programme at a moment of its own time. At-once segments there go with what precedes. */
export function split(programme: Programme, atSamples: number): { before: Programme; after: Programme } {
  const before: Segment[] = [];
  const after: Segment[] = [];
  for (const { segment, startSamples, endSamples } of placeSegments(programme)) {
    if (endSamples <= atSamples && startSamples <= atSamples) before.push(segment);
    else if (startSamples >= atSamples || typeof segment.pace !== 'number') after.push(segment);
    else {
      const cut = segment.fromSamples + Math.round((atSamples - startSamples) * segment.pace);
      const first = { ...segment, toSamples: cut };
      const second = { ...segment, fromSamples: cut };
      if (segment.voice) {
        second.voice = { ...segment.voice, fromSamples: segment.voice.fromSamples + segmentLength(first) };
      }
      if (segmentLength(first) > 0) before.push(first);
      if (segmentLength(second) > 0) after.push(second);
    }
  }
  return { before, after };
}

/** The programme's part from one moment to another of its own time. */
export function slice(programme: Programme, fromSamples: number, toSamples: number): Programme {
  return split(split(programme, fromSamples).after, toSamples - fromSamples).before;
}

/** A take as it was recorded, from its first sample to its last. */
export const whole = (take: { id: TakeId; lengthSamples: number }): Segment => ({
  take: take.id,
  fromSamples: 0,
  toSamples: take.lengthSamples,
  pace: 1,
});

/**
 * The programme without a take: what it wrote is left out, but pages it made stay where others need them. Where it only
 * spoke, the voice before it is back, and the ink waits no longer.
 */
export function withoutTake(programme: Programme, take: TakeId): Programme {
  if (programme.some(({ voice }) => voice?.take === take)) {
    return joined(
      programme
        .filter((segment) => segment.take !== take)
        .map(({ voice, ...segment }) => (voice && voice.take !== take ? { ...segment, voice } : segment)),
    );
  }
  return joined(programme.map((segment) => (segment.take === take ? pagesOf(segment) : segment)));
}

/** Of a segment, only what makes and changes pages. */
export const pagesOf = ({ take, fromSamples, toSamples }: Segment): Segment => ({
  take,
  fromSamples,
  toSamples,
  pace: 'pages',
});

/** Joins segments that go on where the one before them stopped, so that edits leave no needless splices. */
export function joined(programme: Programme): Programme {
  const result: Segment[] = [];
  for (const segment of programme) {
    const last = result.at(-1);
    const goesOn =
      last &&
      marksGoOn(last, segment) &&
      last.pace === segment.pace &&
      Boolean(last.voice) === Boolean(segment.voice) &&
      (!segment.voice || voiceGoesOn(last, segment));
    if (goesOn) result[result.length - 1] = { ...last, toSamples: segment.toSamples };
    else result.push(segment);
  }
  return result;
}
