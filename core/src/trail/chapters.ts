import type { PageId, TakeId } from '../lesson/ids';
import type { Mark } from '../lesson/mark';
import type { TakeMoment } from './ink-edits';
import { marksGoOn, placeSegments, toProgramme, type PlacedSegment, type Programme, type Segment } from './programme';
import type { Take } from './take';
import { firstAtOrAfter } from './trail';

/** A chapter that the teacher named, added, or took away where a page turn would have made one (`title: null`). */
export interface Chapter extends TakeMoment {
  title: string | null;
}

/** A chapter where it plays. */
export interface PlacedChapter {
  startSamples: number;
  title: string;
  /** What it is tied to, whatever happens to the programme around it. */
  moment: TakeMoment;
  /** The teacher made or named it; the others come from page turns. */
  isOwn: boolean;
}

/**
 * The chapters of a programme, in order. Every page turn begins one, named by its page, unless the teacher says otherwise;
 * the first begins with the programme. Of several at one moment, the teacher's own counts, and else the last.
 * @param shownFirst the page the programme begins on
 * @param pages all pages when all is played, which are numbered in their order
 */
export function placeChapters(
  { shownFirst, pages }: { shownFirst: PageId; pages: readonly PageId[] },
  programme: Programme,
  takes: ReadonlyMap<TakeId, Take>,
  own: readonly Chapter[],
): PlacedChapter[] {
  const placed = placeSegments(programme);
  const numbers = new Map(pages.map((page, i) => [page, i + 1]));
  const key = ({ take, atSamples }: TakeMoment) => `${take}@${atSamples}`;
  const ownAt = new Map(own.map((one) => [key(one), one]));
  const found = new Map<number, PlacedChapter>();
  const add = (chapter: PlacedChapter) => {
    if (chapter.isOwn || !found.get(chapter.startSamples)?.isOwn) found.set(chapter.startSamples, chapter);
  };
  for (const { startSamples, page, moment } of turnsIn(shownFirst, placed, takes)) {
    if (!ownAt.has(key(moment))) {
      add({ startSamples, title: `Page ${numbers.get(page) ?? 1}`, moment, isOwn: false });
    }
  }
  for (const { title, ...moment } of own) {
    const at = placed.find(({ segment }) => holds(segment, moment));
    if (title !== null && at) add({ startSamples: toProgramme(at, moment.atSamples), title, moment, isOwn: true });
  }
  return [...found.values()].sort((a, b) => a.startSamples - b.startSamples);
}

/** Whether a segment plays a moment of its take. */
const holds = (segment: Segment, moment: TakeMoment): boolean =>
  segment.kind !== 'pages' &&
  segment.kind !== 'still' &&
  segment.take === moment.take &&
  segment.fromSamples <= moment.atSamples &&
  moment.atSamples < segment.toSamples;

interface Turn {
  startSamples: number;
  page: PageId;
  moment: TakeMoment;
}

type TurnMark = Extract<Mark, { kind: 'turn' }>;

/** Takes never change, and have few turns among thousands of marks. */
const knownTurns = new WeakMap<Take, readonly TurnMark[]>();

function turnsOf(take: Take | undefined): readonly TurnMark[] {
  if (!take) return [];
  const turns = knownTurns.get(take) ?? take.marks.filter((mark) => mark.kind === 'turn');
  knownTurns.set(take, turns);
  return turns;
}

/** Where another page is shown than before, and the beginning. */
function turnsIn(shownFirst: PageId, placed: readonly PlacedSegment[], takes: ReadonlyMap<TakeId, Take>): Turn[] {
  const turns: Turn[] = [];
  let shown: PageId | null = null;
  const turn = (one: PlacedSegment, page: PageId, atSamples: number) => {
    if (page === shown) return;
    shown = page;
    turns.push({ startSamples: toProgramme(one, atSamples), page, moment: { take: one.segment.take, atSamples } });
  };
  for (const [i, one] of placed.entries()) {
    if (one.segment.kind === 'pages' || one.segment.kind === 'still') continue;
    const { take, fromSamples, toSamples } = one.segment;
    const own = turnsOf(takes.get(take));
    const first = firstAtOrAfter(own, fromSamples);
    const before = own[first - 1];
    const isAnew = i === 0 || !marksGoOn(placed[i - 1].segment, one.segment);
    const opens = own[first]?.atSamples === fromSamples;
    if (isAnew && before && !opens) turn(one, before.page, fromSamples);
    if (shown === null && !opens) turn(one, before?.page ?? shownFirst, fromSamples);
    for (let n = first; n < own.length && own[n].atSamples < toSamples; n++) turn(one, own[n].page, own[n].atSamples);
  }
  return turns;
}
