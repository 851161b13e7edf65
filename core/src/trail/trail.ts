import type { PageId, TakeId } from '../lesson/ids';
import { isPassing, markEndSamples, pageOf, pointsOf, retimed, type Mark } from '../lesson/mark';
import { msToSamples, samplesToMs } from './clock';
import { firstIndex } from './first-index';
import {
  marksGoOn,
  placeSegments,
  playsAsRecorded,
  programmeLength,
  rangeOf,
  takesTime,
  toProgramme,
  type PlacedSegment,
  type Programme,
  type Segment,
} from './programme';
import type { Take } from './take';

/** A programme played out: its marks on its own clock. What is watched, exported and published is a trail. */
export interface Trail {
  lengthSamples: number;
  /** In the order of their times. */
  marks: readonly Mark[];
}

/**
 * Plays a programme out into one run of marks. A mark belongs to the segment it begins in; ink still being written when
 * its segment ends goes on in the next one, if that goes on there, and else is finished at the splice. A segment that
 * begins anew turns to the page its take showed there, and looks at what it looked at.
 * @param earlier another trail that was played out: what plays as it did there is not worked out anew
 * @throws Error when it plays a take that is missing
 */
export function flatten(programme: Programme, takes: ReadonlyMap<TakeId, Take>, earlier?: Trail): Trail {
  const played = playOut(programme, takes, earlier && playedOf.get(earlier));
  const marks = ([] as Mark[]).concat(...withoutNeedlessPages(played));
  const trail = { lengthSamples: programmeLength(programme), marks };
  playedOf.set(trail, played);
  return trail;
}

/** The marks that are played when a programme's segment of this index begins. */
export const marksBefore = (programme: Programme, index: number, takes: ReadonlyMap<TakeId, Take>): Mark[] =>
  withoutNeedlessPages(playOut(programme, takes)).slice(0, index).flat();

/** A programme with the takes it plays and the marks of every segment. */
interface Played {
  programme: Programme;
  takes: ReadonlyMap<TakeId, Take>;
  played: readonly (readonly Mark[])[];
}

/** What trails were made of. An edit changes a programme from some segment on, or some take. */
const playedOf = new WeakMap<Trail, Played>();

/** The marks of every segment, on the programme's clock. Those that play as they did earlier are the same objects. */
function playOut(programme: Programme, takes: ReadonlyMap<TakeId, Take>, last?: Played): Played {
  const placed = placeSegments(programme);
  const same = last ? playTheSame(last, programme, takes) : 0;
  const played = placed.map((one, at): readonly Mark[] => {
    if (last && at < same) return last.played[at];
    const { segment } = one;
    const take = takes.get(segment.take);
    if (!take) throw new Error(`The programme plays a take that is missing: ${segment.take}.`);
    const goesOn = at > 0 && marksGoOn(placed[at - 1].segment, segment);
    const marks = goesOn || segment.kind === 'pages' ? [] : whereItBegins(one, take);
    // What begins before this is over when the segment ends, and moves as a whole.
    const wholeUntil = playsAsRecorded(segment) ? segment.toSamples - longestIn(take) : -Infinity;
    for (const mark of marksOf(segment, take)) {
      if (mark.atSamples <= wholeUntil) marks.push(movedTo(mark, toProgramme(one, mark.atSamples)));
      else marks.push(playedMark(mark, placed, at));
    }
    return marks;
  });
  return { programme, takes, played };
}

/** How many segments at the beginning of both programmes play alike. */
function playTheSame(last: Played, other: Programme, takes: ReadonlyMap<TakeId, Take>): number {
  const isOther = (segment: Segment, at: number) =>
    segment !== last.programme[at] || takes.get(segment.take) !== last.takes.get(segment.take);
  const differs = other.findIndex(isOther);
  let same = differs < 0 ? other.length : differs;
  // Ink goes on in later segments, as far as the longest mark reaches.
  let left = Math.max(0, ...[...takes.values()].map(longestIn));
  while (same > 0 && left > 0) {
    same--;
    const { fromSamples, toSamples } = rangeOf(other[same]);
    left -= toSamples - fromSamples;
  }
  return same;
}

const movedTo = (mark: Mark, atSamples: number): Mark => (atSamples === mark.atSamples ? mark : { ...mark, atSamples });

/** Takes never change. */
const longestOfTakes = new WeakMap<Take, number>();

/** How long the longest mark of a take is. */
function longestIn(take: Take): number {
  let longest = longestOfTakes.get(take);
  if (longest === undefined) {
    longest = take.marks.reduce((most, mark) => Math.max(most, markEndSamples(mark) - mark.atSamples), 0);
    longestOfTakes.set(take, longest);
  }
  return longest;
}

function marksOf(segment: Segment, take: Take): readonly Mark[] {
  if (segment.kind === 'still') return [];
  const { kind, fromSamples, toSamples } = segment;
  // A take's very last moment belongs to the segment that reaches its end.
  const end = toSamples >= take.lengthSamples ? take.marks.length : firstAtOrAfter(take.marks, toSamples);
  const marks = take.marks.slice(firstAtOrAfter(take.marks, fromSamples), Math.max(0, end));
  if (kind === 'pages') return pagesAlone(marks);
  // What was only seen for a while is not seen at all in a stretch that takes no time.
  return kind === 'at-once' ? marks.filter((mark) => !isPassing(mark)) : marks;
}

/** The marks that make and change pages. */
export const pagesAlone = (marks: readonly Mark[]): Mark[] => marks.filter(shapesPage);

const shapesPage = ({ kind }: Mark) => kind === 'add-page' || kind === 'alter-page' || kind === 'move-page';

/** The page that a take showed when this segment began, and what part of it was looked at. */
function whereItBegins({ segment, startSamples }: PlacedSegment, take: Take): Mark[] {
  let look: Mark | null = null;
  for (let i = firstAtOrAfter(take.marks, rangeOf(segment).fromSamples) - 1; i >= 0; i--) {
    const mark = take.marks[i];
    if (mark.kind === 'look') look ??= mark;
    if (mark.kind !== 'turn') continue;
    return [mark, ...(look ? [look] : [])].map((one) => ({ ...one, atSamples: startSamples }));
  }
  return [];
}

/** Leaves out of `pages` segments what no later mark needs: pages that are written on, shown, or come before others. */
function withoutNeedlessPages({ programme, played }: Played): Played['played'] {
  if (!programme.some(({ kind }) => kind === 'pages')) return played;
  const needed = new Set<PageId>();
  const need = (mark: Mark) => {
    const page = pageOf(mark);
    if (page && !shapesPage(mark)) needed.add(page);
    if ((mark.kind === 'add-page' || mark.kind === 'move-page') && mark.after) needed.add(mark.after);
  };
  return played
    .toReversed()
    .map((marks, back) => {
      if (programme[programme.length - 1 - back].kind !== 'pages') {
        marks.forEach(need);
        return marks;
      }
      const kept: Mark[] = [];
      for (const mark of marks.toReversed()) {
        const page = pageOf(mark);
        if (page && !needed.has(page)) continue;
        need(mark);
        kept.unshift(mark);
      }
      return kept;
    })
    .toReversed();
}

/** The index of the first mark at or after a time, in marks sorted by time. */
export const firstAtOrAfter = (marks: readonly Mark[], atSamples: number): number =>
  firstIndex(marks.length, (i) => marks[i].atSamples >= atSamples);

/** A mark as it plays in a segment, and in those that go on from it. */
function playedMark(mark: Mark, all: readonly PlacedSegment[], at: number): Mark {
  const placed = all[at];
  const atSamples = toProgramme(placed, mark.atSamples);
  const { segment } = placed;
  if (!pointsOf(mark) || (playsAsRecorded(segment) && markEndSamples(mark) <= segment.toSamples)) {
    return movedTo(mark, atSamples);
  }
  if (!takesTime(segment)) return { ...inNoTime(mark), atSamples };
  const played = retimed(mark, (sinceMs) =>
    samplesToMs(playsOnAt(all, at, mark.atSamples + msToSamples(sinceMs)) - atSamples),
  );
  return { ...played, atSamples };
}

const marksInNoTime = new WeakMap<Mark, Mark>();

/** A mark with all its points at once: the same one whenever it is asked for, so that nothing is painted again for it. */
function inNoTime(mark: Mark): Mark {
  const known = marksInNoTime.get(mark) ?? retimed(mark, () => 0);
  marksInNoTime.set(mark, known);
  return known;
}

/** When a moment of a take plays in a segment, or in those that go on from it. */
function playsOnAt(all: readonly PlacedSegment[], first: number, takeSamples: number): number {
  let at = first;
  while (
    takeSamples > rangeOf(all[at].segment).toSamples &&
    at + 1 < all.length &&
    marksGoOn(all[at].segment, all[at + 1].segment)
  ) {
    at++;
  }
  return toProgramme(all[at], takeSamples);
}
