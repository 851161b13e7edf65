import type { TakeId } from '../lesson/ids';
import { isPassing, pointsOf, retimed, type Mark } from '../lesson/mark';
import { msToSamples, samplesToMs } from './clock';
import { placeSegments, programmeLength, toProgramme, type PlacedSegment, type Programme } from './programme';
import type { Take } from './take';

/** A programme played out: its marks on its own clock. What is watched, exported and published is a trail. */
export interface Trail {
  lengthSamples: number;
  /** In the order of their times. */
  marks: readonly Mark[];
}

/**
 * Plays a programme out into one run of marks. A mark belongs to the segment it begins in; ink still being written when
 * its segment ends is finished at the splice.
 */
export function flatten(programme: Programme, takes: ReadonlyMap<TakeId, Take>): Trail {
  const marks: Mark[] = [];
  for (const placed of placeSegments(programme)) {
    const take = takes.get(placed.segment.take);
    if (!take) throw new Error(`The programme plays a take that is missing: ${placed.segment.take}.`);
    const { fromSamples, toSamples } = placed.segment;
    // A take's very last moment belongs to the segment that reaches its end.
    const until = toSamples >= take.lengthSamples ? Infinity : toSamples;
    const first = firstAtOrAfter(take.marks, fromSamples);
    for (let i = first; i < take.marks.length && take.marks[i].atSamples < until; i++) {
      // What was only seen for a while is not seen at all in a stretch that takes no time.
      if (placed.segment.pace === 'at-once' && isPassing(take.marks[i])) continue;
      marks.push(playedMark(take.marks[i], placed));
    }
  }
  return { lengthSamples: programmeLength(programme), marks };
}

/** The index of the first mark at or after a time, in marks sorted by time. */
export function firstAtOrAfter(marks: readonly Mark[], atSamples: number): number {
  let low = 0;
  let high = marks.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (marks[middle].atSamples < atSamples) low = middle + 1;
    else high = middle;
  }
  return low;
}

function playedMark(mark: Mark, placed: PlacedSegment): Mark {
  const atSamples = toProgramme(placed, mark.atSamples);
  const points = pointsOf(mark);
  if (!points) return { ...mark, atSamples };
  const endSamples = mark.atSamples + msToSamples(points.lengthMs);
  if (placed.segment.pace === 1 && endSamples <= placed.segment.toSamples) return { ...mark, atSamples };
  const played = retimed(mark, (sinceMs) =>
    samplesToMs(toProgramme(placed, mark.atSamples + msToSamples(sinceMs)) - atSamples),
  );
  return { ...played, atSamples };
}
