import type { TakeId } from '../lesson/ids';

/** A piece of a take as it plays. At-once segments take no time: all their marks land together. */
export interface Segment {
  take: TakeId;
  fromSamples: number;
  toSamples: number;
  /** How many times faster than recorded. */
  pace: number | 'at-once';
}

/** What viewers get: the ordered segments. All editing is editing of the programme. */
export type Programme = readonly Segment[];

/** A segment with its place in the programme. */
export interface PlacedSegment {
  segment: Segment;
  startSamples: number;
  endSamples: number;
}

/** How long a segment plays, in samples. */
export function segmentLength(segment: Segment): number {
  if (segment.pace === 'at-once') return 0;
  return Math.round((segment.toSamples - segment.fromSamples) / segment.pace);
}

/** How long a programme plays, in samples. */
export function programmeLength(programme: Programme): number {
  return programme.reduce((sum, segment) => sum + segmentLength(segment), 0);
}

/** The programme's segments with the times at which they play. */
export function placeSegments(programme: Programme): PlacedSegment[] {
  let startSamples = 0;
  return programme.map((segment) => {
    const placed = { segment, startSamples, endSamples: startSamples + segmentLength(segment) };
    startSamples = placed.endSamples;
    return placed;
  });
}

/** When a moment of a segment's take plays. Moments outside the segment map to its nearer end. */
export function toProgramme(placed: PlacedSegment, takeSamples: number): number {
  const { segment, startSamples, endSamples } = placed;
  if (segment.pace === 'at-once') return startSamples;
  const at = startSamples + (takeSamples - segment.fromSamples) / segment.pace;
  return Math.min(endSamples, Math.max(startSamples, Math.round(at)));
}

/** Which moment of which segment plays at a programme time; the last segment that plays there wins. */
export function toTake(
  placed: readonly PlacedSegment[],
  programmeSamples: number,
): { placed: PlacedSegment; takeSamples: number } | null {
  const found = placed.findLast((one) => one.segment.pace !== 'at-once' && one.startSamples <= programmeSamples);
  if (!found || found.segment.pace === 'at-once') return null;
  const into = Math.min(programmeSamples, found.endSamples) - found.startSamples;
  const takeSamples = Math.min(
    found.segment.toSamples,
    found.segment.fromSamples + Math.round(into * found.segment.pace),
  );
  return { placed: found, takeSamples };
}
