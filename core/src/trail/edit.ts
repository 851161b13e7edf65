import type { TakeId } from '../lesson/ids';
import {
  isSilenced,
  marksGoOn,
  placeSegments,
  playsAsRecorded,
  programmeLength,
  rangeOf,
  segmentLength,
  takesTime,
  voiceGoesOn,
  type PlayedSegment,
  type Programme,
  type Segment,
  type StillSegment,
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

const atOnce = (segment: Segment): Segment =>
  segment.kind === 'pages' ? pagesOf(segment) : { kind: 'at-once', take: segment.take, ...stretchOf(segment) };

function stretchOf(segment: Segment): Stretch {
  const { fromSamples, toSamples } = rangeOf(segment);
  return { fromSamples, toSamples };
}

/**
 * Divides a programme at a moment of its own time.
 * @param instantsGo where segments go that take no time and lie at that very moment
 */
export function split(
  programme: Programme,
  atSamples: number,
  instantsGo: 'before' | 'after' = 'before',
): { before: Programme; after: Programme } {
  const before: Segment[] = [];
  const after: Segment[] = [];
  for (const { segment, startSamples, endSamples } of placeSegments(programme)) {
    const isInstantThere = startSamples === endSamples && startSamples === atSamples;
    if (isInstantThere) (instantsGo === 'before' ? before : after).push(segment);
    else if (endSamples <= atSamples) before.push(segment);
    else if (startSamples >= atSamples) after.push(segment);
    else {
      const [first, second] = divided(segment, atSamples - startSamples);
      if (segmentLength(first) > 0) before.push(first);
      if (segmentLength(second) > 0) after.push(second);
    }
  }
  return { before, after };
}

/** Both parts of a segment that takes time, divided so far into it. */
function divided(segment: Segment, intoSamples: number): [Segment, Segment] {
  const [first, second] = halves(segment, intoSamples);
  delete second.isDivided;
  if (takesTime(segment) && takesTime(second) && segment.voice) {
    second.voice = { ...segment.voice, fromSamples: segment.voice.fromSamples + segmentLength(first) };
  }
  return [first, second];
}

function halves(segment: Segment, intoSamples: number): [Segment, Segment] {
  if (segment.kind === 'still') {
    return [
      { ...segment, forSamples: intoSamples },
      { ...segment, forSamples: segment.forSamples - intoSamples },
    ];
  }
  const pace = segment.kind === 'play' ? segment.pace : 0;
  const at = segment.fromSamples + Math.round(intoSamples * pace);
  return [
    { ...segment, toSamples: at },
    { ...segment, fromSamples: at },
  ];
}

/** What becomes of the ink of a stretch whose time is cut: it is there at once, or goes with it. */
export type CutInk = 'keep' | 'drop';

/** A stretch of a programme's own time, from its first sample to the one behind its last. */
export interface Stretch {
  fromSamples: number;
  toSamples: number;
}

/**
 * Cuts the time of a stretch. Its ink is kept, and is there at once when what follows begins, or it is dropped with it; pages
 * made in it stay where what follows needs them.
 */
export const cut = (programme: Programme, stretch: Stretch, ink: CutInk): Programme =>
  within(programme, stretch, (inside) => inside.map(ink === 'keep' ? atOnce : pagesOf));

/** Plays a stretch once more right after itself. */
export const repeated = (programme: Programme, stretch: Stretch): Programme =>
  within(programme, stretch, (inside) => [...inside, ...inside]);

/** Lets nothing be heard in a stretch. */
export const silenced = (programme: Programme, stretch: Stretch): Programme =>
  within(programme, stretch, (inside) => inside.map((one) => (takesTime(one) ? { ...one, voice: null } : one)));

/** Lets what was silenced in a stretch be heard again. */
export const sounded = (programme: Programme, stretch: Stretch): Programme =>
  within(programme, stretch, (inside) => inside.map(withoutSilence));

const withoutSilence = (segment: Segment): Segment => (isSilenced(segment) ? ownVoice(segment) : segment);

/** A segment with its own take's voice, or none, as it was before anything else was said about it. */
function ownVoice<S extends Segment>(segment: S): S {
  const own = { ...segment };
  if (takesTime(own)) delete own.voice;
  return own;
}

/** Plays a stretch, as far as it plays as recorded, so many times faster and without sound. */
export const quickened = (programme: Programme, stretch: Stretch, pace: number): Programme =>
  within(programme, stretch, (inside) =>
    inside.map((one) => {
      return playsAsRecorded(one) ? { ...ownVoice(one), pace } : one;
    }),
  );

/**
 * Moves a stretch to another moment of the programme as it is. Pages that were made in what it changes places with, or in
 * itself, are there when they are needed.
 */
export function moved(programme: Programme, { fromSamples, toSamples }: Stretch, atSamples: number): Programme {
  if (atSamples > fromSamples && atSamples < toSamples) return programme;
  const isEarlier = atSamples <= fromSamples;
  const [start, middle, end] = isEarlier ? [atSamples, fromSamples, toSamples] : [fromSamples, toSamples, atSamples];
  const { before, inside, after } = parts(programme, { fromSamples: start, toSamples: end });
  const { before: first, after: second } = split(inside, middle - start, isEarlier ? 'before' : 'after');
  return joined([...before, ...first.map(pagesOf), ...second, ...first, ...after]);
}

/** Divides the trail at a moment, so that its parts can be taken hold of. Nothing plays differently. */
export function dividedAt(programme: Programme, atSamples: number): Programme {
  const { before, after } = split(programme, atSamples);
  const [first, ...rest] = after;
  return first && before.length > 0 ? joined([...before, { ...first, isDivided: true }, ...rest]) : programme;
}

/** Where segments that take time meet, in order. */
export function splicesIn(programme: Programme): number[] {
  const starts = placeSegments(programme).filter(({ startSamples, endSamples }) => endSamples > startSamples);
  return starts.slice(1).map(({ startSamples }) => startSamples);
}

/** The part of a programme between the splices on either side of a moment. */
export function partAt(programme: Programme, atSamples: number): Stretch {
  const ends = [0, ...splicesIn(programme), programmeLength(programme)];
  const at = Math.max(
    1,
    ends.findIndex((end) => end > atSamples),
  );
  return atSamples >= ends[ends.length - 1]
    ? { fromSamples: ends[ends.length - 2], toSamples: ends[ends.length - 1] }
    : { fromSamples: ends[at - 1], toSamples: ends[at] };
}

/** Lets the picture stand at a moment for so long, in silence. */
export function withStill(programme: Programme, atSamples: number, forSamples: number): Programme {
  const { before, after } = split(programme, atSamples);
  const stood = before.at(-1);
  const next = stood ?? after.at(0);
  if (!next) return programme;
  const at = stood ? rangeOf(stood).toSamples : rangeOf(next).fromSamples;
  const still: Segment = { kind: 'still', take: next.take, atSamples: at, forSamples };
  return joined([...before, still, ...after]);
}

/** Divides a programme into what is before, in and behind a stretch. What takes no time at its ends is not in it. */
function parts(programme: Programme, { fromSamples, toSamples }: Stretch) {
  const { before, after: rest } = split(programme, fromSamples);
  const { before: inside, after } = split(rest, toSamples - fromSamples, 'after');
  return { before, inside, after };
}

function within(programme: Programme, stretch: Stretch, edit: (inside: Programme) => Programme): Programme {
  const { before, inside, after } = parts(programme, stretch);
  return joined([...before, ...edit(inside), ...after]);
}

/** The programme's part from one moment to another of its own time. */
export function slice(programme: Programme, fromSamples: number, toSamples: number): Programme {
  return split(split(programme, fromSamples).after, toSamples - fromSamples).before;
}

/** A take as it was recorded, from its first sample to its last. */
export const whole = (take: { id: TakeId; lengthSamples: number }): PlayedSegment => ({
  kind: 'play',
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
  const speaks = (segment: Segment) => takesTime(segment) && segment.voice?.take === take;
  if (programme.some(speaks)) {
    const others = programme.filter((segment) => segment.take !== take);
    return joined(
      others.map((segment) => {
        return speaks(segment) ? ownVoice(segment) : segment;
      }),
    );
  }
  return joined(programme.map((segment) => (segment.take === take ? pagesOf(segment) : segment)));
}

/**
 * The programme with a take that was taken out of it, where it played.
 * @param before the programme from which it was taken; where nothing was edited since, that is what comes back
 */
export function withTakeBack(programme: Programme, before: Programme, take: TakeId): Programme {
  if (isSame(programme, withoutTake(before, take))) return before;
  const own = before.filter((segment) => segment.take === take);
  return joined(
    programme.flatMap((segment): readonly Segment[] => {
      if (segment.kind !== 'pages' || segment.take !== take) return [segment];
      const within = own.filter((one) => {
        const { fromSamples, toSamples } = rangeOf(one);
        return fromSamples >= segment.fromSamples && toSamples <= segment.toSamples;
      });
      return within.length > 0 ? within : [segment];
    }),
  );
}

const isSame = (one: Programme, other: Programme): boolean => JSON.stringify(one) === JSON.stringify(other);

/** Of a segment, only what makes and changes pages. */
export const pagesOf = (segment: Segment): Segment => ({ kind: 'pages', take: segment.take, ...stretchOf(segment) });

/** Joins segments that go on where the one before them stopped, so that edits leave no needless splices. */
export function joined(programme: Programme): Programme {
  const result: Segment[] = [];
  for (const segment of programme) {
    const last = result.at(-1);
    const both = last && !segment.isDivided && marksGoOn(last, segment) ? asOne(last, segment) : null;
    if (both) result[result.length - 1] = both;
    else result.push(segment);
  }
  return result;
}

/** Two segments as one, where the second's ink goes on where the first's stops; `null` where they play differently. */
function asOne(first: Segment, second: Segment): Segment | null {
  if (first.kind === 'still' && second.kind === 'still') {
    return soundAsOne(first, second) ? { ...first, forSamples: first.forSamples + second.forSamples } : null;
  }
  if (first.kind === 'play' && second.kind === 'play') {
    const areOne = first.pace === second.pace && soundAsOne(first, second);
    return areOne ? { ...first, toSamples: second.toSamples } : null;
  }
  const isInstant = first.kind === 'at-once' || first.kind === 'pages';
  return isInstant && first.kind === second.kind ? { ...first, toSamples: second.toSamples } : null;
}

const soundAsOne = (first: PlayedSegment | StillSegment, second: PlayedSegment | StillSegment): boolean =>
  first.voice === second.voice || Boolean(first.voice && second.voice && voiceGoesOn(first, second));
