import type { TakeId } from '../lesson/ids';

/** A voice that is not the take's own: another take's sound from a moment on, at the pace it was spoken. */
export interface VoiceOver {
  take: TakeId;
  fromSamples: number;
}

interface SegmentBase {
  take: TakeId;
  /** The teacher divided the trail where it begins: it stays divided though nothing is different there. */
  isDivided?: true;
}

/** A stretch of a take, from one of its samples to the one behind its last. */
interface Ranged extends SegmentBase {
  fromSamples: number;
  toSamples: number;
}

/** A stretch that goes by, `pace` times as fast as it was recorded. */
export interface PlayedSegment extends Ranged {
  kind: 'play';
  pace: number;
  /** Absent: the take's own voice, which sounds only at the pace it was spoken. `null`: silence. */
  voice?: VoiceOver | null;
}

/** A stretch that takes no time: all its marks land together. */
export interface AtOnceSegment extends Ranged {
  kind: 'at-once';
}

/** A stretch that takes no time, and of which only what makes and changes pages lands, as far as what follows needs these. */
export interface PagesSegment extends Ranged {
  kind: 'pages';
}

/** The take stands at one of its moments for so long. */
export interface StillSegment extends SegmentBase {
  kind: 'still';
  atSamples: number;
  forSamples: number;
  /** Another take may speak meanwhile. */
  voice?: VoiceOver | null;
}

/** A piece of a take as it plays. */
export type Segment = PlayedSegment | AtOnceSegment | PagesSegment | StillSegment;

/** What viewers get: the ordered segments. All editing is editing of the programme. */
export type Programme = readonly Segment[];

/** A segment with its place in the programme. */
export interface PlacedSegment {
  segment: Segment;
  startSamples: number;
  endSamples: number;
}

/** The stretch of its take that a segment stands for; of a still, that is one moment. */
export const rangeOf = (segment: Segment): { fromSamples: number; toSamples: number } =>
  segment.kind === 'still' ? { fromSamples: segment.atSamples, toSamples: segment.atSamples } : segment;

/** How long a segment plays, in samples. */
export function segmentLength(segment: Segment): number {
  switch (segment.kind) {
    case 'play':
      return Math.round((segment.toSamples - segment.fromSamples) / segment.pace);
    case 'still':
      return segment.forSamples;
    case 'at-once':
    case 'pages':
      return 0;
  }
}

/** Whether a segment plays for some time, if only for an instant. */
export const takesTime = (segment: Segment): segment is PlayedSegment | StillSegment =>
  segment.kind === 'play' || segment.kind === 'still';

/** Whether a segment plays as it was recorded, as fast as it was. */
export const playsAsRecorded = (segment: Segment): segment is PlayedSegment =>
  segment.kind === 'play' && segment.pace === 1;

/** Whether the teacher has silenced a segment. */
export const isSilenced = (segment: Segment): boolean => takesTime(segment) && segment.voice === null;

/** How fast a segment's take goes by while it plays. */
const paceOf = (segment: Segment): number => (segment.kind === 'play' ? segment.pace : 0);

/** Whose voice sounds with a segment, and from which of its samples on; `null` where it is silent. */
export function voiceOf(segment: Segment): VoiceOver | null {
  if (!takesTime(segment)) return null;
  const { take, voice } = segment;
  return voice === undefined && playsAsRecorded(segment) ? { take, fromSamples: segment.fromSamples } : (voice ?? null);
}

/** Every take whose ink or voice a programme plays. Those of which only pages are left do not count. */
export function takesIn(programme: Programme): Set<TakeId> {
  const playing = programme.filter(({ kind }) => kind !== 'pages');
  return new Set(
    playing.flatMap((segment) => {
      const voice = takesTime(segment) ? segment.voice : null;
      return voice ? [segment.take, voice.take] : [segment.take];
    }),
  );
}

/** Whether the marks of one segment go on in the next where they stopped. */
export const marksGoOn = (first: Segment, second: Segment): boolean =>
  first.take === second.take && rangeOf(first).toSamples === rangeOf(second).fromSamples;

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
  if (segment.kind !== 'play') return startSamples;
  const at = startSamples + (takeSamples - segment.fromSamples) / segment.pace;
  return Math.min(endSamples, Math.max(startSamples, Math.round(at)));
}

/**
 * When a moment of a take plays or stands still first, in samples of the programme, or `null` where it takes no time. The end of a
 * stretch is a moment of it where nothing goes on from there.
 */
export function whenPlayed(
  placed: readonly PlacedSegment[],
  { take, atSamples }: { take: TakeId; atSamples: number },
): number | null {
  const holds = ({ segment }: PlacedSegment): boolean => {
    if (segment.take !== take) return false;
    if (segment.kind === 'still') return segment.atSamples === atSamples;
    return segment.kind === 'play' && segment.fromSamples <= atSamples && atSamples < segment.toSamples;
  };
  const ends = ({ segment }: PlacedSegment): boolean =>
    segment.kind === 'play' && segment.take === take && segment.toSamples === atSamples;
  const found = placed.find(holds) ?? placed.find(ends);
  return found ? toProgramme(found, atSamples) : null;
}

/** Which moment of which segment plays at a programme time; the last segment that plays there wins. */
export function toTake(
  placed: readonly PlacedSegment[],
  programmeSamples: number,
): { placed: PlacedSegment; takeSamples: number } | null {
  const found = placed.findLast(({ segment, startSamples }) => takesTime(segment) && startSamples <= programmeSamples);
  if (!found) return null;
  const into = Math.min(programmeSamples, found.endSamples) - found.startSamples;
  const { fromSamples, toSamples } = rangeOf(found.segment);
  const takeSamples = Math.min(toSamples, fromSamples + Math.round(into * paceOf(found.segment)));
  return { placed: found, takeSamples };
}
