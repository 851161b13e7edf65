import type { TakeId } from '../lesson/ids';

/** A voice that is not the take's own: another take's sound from a moment on, at the pace it was spoken. */
export interface VoiceOver {
  take: TakeId;
  fromSamples: number;
}

/** A piece of a take as it plays. */
export interface Segment {
  take: TakeId;
  fromSamples: number;
  toSamples: number;
  /**
   * How many times faster than recorded. At-once segments take no time: all their marks land together. Neither do `pages`
   * ones, of which only what makes and changes pages lands, as far as what follows needs these pages. In a `still` one the
   * take stands at one moment for `stillSamples`.
   */
  pace: number | 'at-once' | 'pages' | 'still';
  stillSamples?: number;
  /** The teacher divided the trail where it begins: it stays divided though nothing is different there. */
  isDivided?: true;
  /** Absent: the take's own voice, which sounds only at the pace it was spoken. `null`: silence. */
  voice?: VoiceOver | null;
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
export function segmentLength({ fromSamples, toSamples, pace, stillSamples }: Segment): number {
  if (pace === 'still') return stillSamples ?? 0;
  return typeof pace === 'number' ? Math.round((toSamples - fromSamples) / pace) : 0;
}

/** Whether a segment plays for some time, if only for an instant. */
export const takesTime = ({ pace }: Segment): boolean => typeof pace === 'number' || pace === 'still';

/** How fast a segment's take goes by while it plays. */
const paceOf = ({ pace }: Segment): number => (typeof pace === 'number' ? pace : 0);

/** Whose voice sounds with a segment, and from which of its samples on; `null` where it is silent. */
export function voiceOf({ take, fromSamples, pace, voice }: Segment): VoiceOver | null {
  return voice === undefined && pace === 1 ? { take, fromSamples } : (voice ?? null);
}

/** Every take whose ink or voice a programme plays. Those of which only pages are left do not count. */
export function takesIn(programme: Programme): Set<TakeId> {
  const playing = programme.filter(({ pace }) => pace !== 'pages');
  return new Set(playing.flatMap(({ take, voice }) => (voice ? [take, voice.take] : [take])));
}

/** Whether the marks of one segment go on in the next where they stopped. */
export const marksGoOn = (first: Segment, second: Segment): boolean =>
  first.take === second.take && first.toSamples === second.fromSamples;

/** Whether the sound of one segment goes on in the next where it stopped, so that there is nothing to fade. */
export function voiceGoesOn(first: Segment, second: Segment): boolean {
  const [before, after] = [voiceOf(first), voiceOf(second)];
  if (!before || !after) return before === after;
  return before.take === after.take && before.fromSamples + segmentLength(first) === after.fromSamples;
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
  if (typeof segment.pace !== 'number') return startSamples;
  const at = startSamples + (takeSamples - segment.fromSamples) / segment.pace;
  return Math.min(endSamples, Math.max(startSamples, Math.round(at)));
}

/** Which moment of which segment plays at a programme time; the last segment that plays there wins. */
export function toTake(
  placed: readonly PlacedSegment[],
  programmeSamples: number,
): { placed: PlacedSegment; takeSamples: number } | null {
  const found = placed.findLast(({ segment, startSamples }) => takesTime(segment) && startSamples <= programmeSamples);
  if (!found) return null;
  const into = Math.min(programmeSamples, found.endSamples) - found.startSamples;
  const takeSamples = Math.min(
    found.segment.toSamples,
    found.segment.fromSamples + Math.round(into * paceOf(found.segment)),
  );
  return { placed: found, takeSamples };
}
