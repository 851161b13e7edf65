import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { InkPoints } from '../ink/points';
import type { PageId, PieceId, TakeId } from '../lesson/ids';
import { isPassing, type Mark } from '../lesson/mark';
import { newStroke } from '../lesson/piece';
import { wideSquaredPage } from '../lesson/page';
import { applyChange, type Scene } from '../lesson/scene';
import { mixProgramme } from '../sound/mix';
import { base, marks, TAKE_SAMPLES } from '../testing/arbitraries';
import { cut, split, trim, withoutTake, withTakeBack } from './edit';
import { pagePartAt } from './page-part';
import {
  isStretchPlan,
  openingScene,
  placeTake,
  planFor,
  useTake,
  type PlannedTake,
  type TakePlan,
  openingMarks,
} from './plan';
import {
  placeSegments,
  programmeLength,
  rangeOf,
  segmentLength,
  takesIn,
  toProgramme,
  toTake,
  voiceOf,
  type Programme,
  type Segment,
} from './programme';
import { sceneBefore, Timeline } from './timeline';
import type { Take } from './take';
import { flatten } from './trail';

const PAGE = base.pages[0].page.id;
const SECOND = 48_000;
const ids = (scene: Scene) => [
  scene.shown,
  scene.pages.map(({ page, pieces }) => [page.id, pieces.map((piece) => piece.id)]),
];

/** A lesson as it is recorded: every step is made by the functions that are tested. */
class Lesson {
  readonly takes = new Map<TakeId, Take>();
  readonly planned: PlannedTake[] = [];
  history: Programme[] = [[]];

  get programme(): Programme {
    return this.history.at(-1)!;
  }

  record(plan: TakePlan, lengthSamples: number, written: readonly Mark[]): TakeId {
    const id = `take-${this.planned.length}` as TakeId;
    const own = written.map((mark) => ({ ...mark, atSamples: Math.min(mark.atSamples, lengthSamples) }));
    this.takes.set(id, { id, lengthSamples, sound: null, marks: plan.kind === 're-speak' ? [] : own });
    this.planned.push({ id, lengthSamples, plan });
    const placed = placeTake(this.programme, this.planned.at(-1)!);
    if (placed) this.history.push(placed);
    return id;
  }

  /** @param ends two moments, as parts of the programme */
  redo(
    kind: 'retake' | 're-speak' | 're-ink',
    ends: readonly [number, number],
    length: number,
    written: readonly Mark[],
    holds: readonly { at: number; for: number }[] = [],
  ): TakeId {
    const total = programmeLength(this.programme);
    const [from, to] = [Math.min(...ends), Math.max(...ends)].map((part) => Math.floor(part * total));
    const plan = planFor(kind, this.programme, from, to);
    if (plan.kind === 're-speak') {
      const waits = holds.map((hold) => ({ atSamples: Math.floor(hold.at * (to - from)), forSamples: hold.for }));
      return this.record({ ...plan, holds: waits.sort((a, b) => a.atSamples - b.atSamples) }, length, []);
    }
    return this.record(plan, length, written);
  }
}

const length = fc.integer({ min: 1, max: TAKE_SAMPLES });
const part = fc.double({ min: 0, max: 1, noNaN: true });
const ends = fc.tuple(part, part);
const step = fc.oneof(
  fc.record({ do: fc.constant('carry-on' as const), length, marks }),
  fc.record({ do: fc.constant('insert' as const), at: part, length, marks }),
  fc.record({ do: fc.constantFrom('retake' as const, 're-ink' as const), ends, length, marks }),
  fc.record({
    do: fc.constant('re-speak' as const),
    ends,
    length,
    holds: fc.array(fc.record({ at: part, for: fc.nat(96_000) }), { maxLength: 3 }),
  }),
  fc.record({ do: fc.constant('trim' as const), ends }),
  fc.record({ do: fc.constant('use' as const), nth: fc.nat() }),
  fc.record({ do: fc.constant('drop' as const), nth: fc.nat() }),
  fc.record({ do: fc.constant('undo' as const) }),
);
type Step = typeof step extends fc.Arbitrary<infer S> ? S : never;

function take(lesson: Lesson, one: Step): void {
  const { programme, planned } = lesson;
  const total = programmeLength(programme);
  switch (one.do) {
    case 'carry-on':
      lesson.record({ kind: 'carry-on' }, one.length, one.marks);
      return;
    case 'insert':
      lesson.record({ kind: 'insert', atSamples: Math.floor(one.at * total) }, one.length, one.marks);
      return;
    case 're-speak':
      lesson.redo('re-speak', one.ends, one.length, [], one.holds);
      return;
    case 'trim': {
      const [from, to] = [Math.min(...one.ends), Math.max(...one.ends)].map((at) => Math.floor(at * total));
      if (to > from) lesson.history.push(trim(programme, from, to));
      return;
    }
    case 'use':
    case 'drop': {
      if (planned.length === 0) return;
      const { id } = planned[one.nth % planned.length];
      lesson.history.push(one.do === 'use' ? useTake(programme, id, planned) : withoutTake(programme, id));
      return;
    }
    case 'undo':
      if (lesson.history.length > 1) lesson.history.pop();
      return;
    default:
      lesson.redo(one.do, one.ends, one.length, one.marks);
  }
}

const lesson = fc.array(step, { minLength: 1, maxLength: 9 }).map((steps) => {
  const made = new Lesson();
  for (const one of steps) take(made, one);
  return made;
});

/** The scene in which a segment begins, worked out mark by mark straight from what segments mean. */
function fromScratch(programme: Programme, takes: ReadonlyMap<TakeId, Take>, until: number): Scene {
  const shapes = (mark: Mark) => ['add-page', 'alter-page', 'move-page'].includes(mark.kind);
  const named = (mark: Mark) =>
    'page' in mark && typeof mark.page === 'string' ? mark.page : (mark as { page: { id: PageId } }).page.id;
  const own = (segment: Segment) => {
    const { fromSamples, toSamples } = rangeOf(segment);
    const { marks: all, lengthSamples } = takes.get(segment.take)!;
    return all.filter(
      ({ atSamples }) => atSamples >= fromSamples && (atSamples < toSamples || toSamples >= lengthSamples),
    );
  };
  const begins = (at: number): Mark[] => {
    const [before, now] = [programme[at - 1], programme[at]];
    const { fromSamples } = rangeOf(now);
    if (now.kind === 'pages' || (before?.take === now.take && rangeOf(before).toSamples === fromSamples)) return [];
    const earlier = takes.get(now.take)!.marks.filter(({ atSamples }) => atSamples < fromSamples);
    const turn = earlier.findLastIndex(({ kind }) => kind === 'turn');
    const look = earlier.findLastIndex(({ kind }) => kind === 'look');
    return turn < 0 ? [] : look > turn ? [earlier[turn], earlier[look]] : [earlier[turn]];
  };
  const lands = (mark: Mark, at: number, nth: number): boolean => {
    const { kind } = programme[at];
    if (kind === 'at-once') return !isPassing(mark);
    if (kind !== 'pages') return true;
    if (!shapes(mark)) return false;
    const page = named(mark);
    return programme.some((segment, later) => {
      if (later < at) return false;
      const follow = own(segment).filter((_, n) => later > at || n > nth);
      const anew = later > at ? begins(later) : [];
      return [...anew, ...follow].some((one) => {
        const n = own(segment).indexOf(one);
        const isAfter = 'after' in one && one.after === page && (anew.includes(one) || lands(one, later, n));
        return isAfter || (segment.kind !== 'pages' && !shapes(one) && named(one) === page);
      });
    });
  };
  let scene = base;
  for (let at = 0; at < until; at++) {
    scene = [...begins(at), ...own(programme[at]).filter((mark, n) => lands(mark, at, n))].reduce(applyChange, scene);
  }
  return scene;
}

describe('any takes, retakes, new voices, new ink and undos', () => {
  it('give a programme whose time mapping is monotonic, and plays nothing that was not recorded', () => {
    fc.assert(
      fc.property(lesson, part, ({ programme, takes }, at) => {
        const placed = placeSegments(programme);
        for (const [i, { segment, startSamples, endSamples }] of placed.entries()) {
          if (i > 0) expect(startSamples).toBe(placed[i - 1].endSamples);
          expect(endSamples).toBeGreaterThanOrEqual(startSamples);
          const { fromSamples, toSamples } = rangeOf(segment);
          expect(fromSamples).toBeGreaterThanOrEqual(0);
          expect(toSamples).toBeGreaterThanOrEqual(fromSamples);
          expect(toSamples).toBeLessThanOrEqual(takes.get(segment.take)!.lengthSamples);
          const voice = voiceOf(segment);
          if (voice) {
            expect(voice.fromSamples).toBeGreaterThanOrEqual(0);
            expect(voice.fromSamples + segmentLength(segment)).toBeLessThanOrEqual(
              takes.get(voice.take)!.lengthSamples,
            );
          }
        }
        const trail = flatten(programme, takes);
        trail.marks.forEach((mark, i) => {
          expect(mark.atSamples).toBeGreaterThanOrEqual(i === 0 ? 0 : trail.marks[i - 1].atSamples);
          expect(mark.atSamples).toBeLessThanOrEqual(trail.lengthSamples);
        });
        const moment = Math.floor(at * programmeLength(programme));
        const found = toTake(placed, moment);
        if (found) expect(Math.abs(toProgramme(found.placed, found.takeSamples) - moment)).toBeLessThanOrEqual(1);
      }),
    );
  });

  it('show at every splice the scene that is computed from scratch', () => {
    fc.assert(
      fc.property(lesson, ({ programme, takes }) => {
        const timeline = new Timeline(base, flatten(programme, takes));
        programme.forEach((_, at) => {
          expect(ids(sceneBefore(base, programme, at, takes))).toEqual(ids(fromScratch(programme, takes, at)));
        });
        expect(ids(timeline.end)).toEqual(ids(fromScratch(programme, takes, programme.length)));
      }),
      { numRuns: 60 },
    );
  });

  it('mix to a sound exactly as long as the programme', async () => {
    const silent = { read: async (_: TakeId, from: number, to: number) => new Float32Array(to - from) };
    await fc.assert(
      fc.asyncProperty(lesson, async ({ programme }) => {
        let samples = 0;
        for await (const block of mixProgramme(programme, silent)) samples += block.length;
        expect(samples).toBe(programmeLength(programme));
      }),
      { numRuns: 20 },
    );
  });
});

const stroke = (id: string, atSeconds: number, lengthMs = 200): Mark => ({
  kind: 'ink',
  page: PAGE,
  atSamples: atSeconds * SECOND,
  stroke: newStroke({
    id: id as PieceId,
    z: 1,
    pen: { kind: 'pen', color: '#1f2a44', widthPt: 3 },
    points: InkPoints.from([0, lengthMs].map((sinceMs) => ({ xPt: 10 + sinceMs, yPt: 10, pressure: 0.5, sinceMs }))),
  }),
});

/** Ten seconds with a stroke at each second, of which the sixth adds a page and turns to it. */
function tenSeconds(): Lesson {
  const made = new Lesson();
  const second = { ...wideSquaredPage('page-two' as PageId) };
  made.record({ kind: 'carry-on' }, 10 * SECOND, [
    { kind: 'turn', page: PAGE, atSamples: 0 },
    ...[1, 2, 3, 4, 5].map((n) => stroke(`first-${n}`, n)),
    { kind: 'add-page', page: second, after: PAGE, atSamples: 6 * SECOND },
    { kind: 'turn', page: second.id, atSamples: 6 * SECOND },
    { ...stroke('first-8', 8), page: second.id } as Mark,
  ]);
  return made;
}
const timelineOf = ({ programme, takes }: Lesson) => new Timeline(base, flatten(programme, takes));
const piecesAt = (made: Lesson, seconds: number) =>
  timelineOf(made)
    .at(seconds * SECOND)
    .scene.pages.flatMap(({ pieces }) => pieces.map((piece) => piece.id));

describe('a retake', () => {
  it('replaces its stretch, and what follows goes on on the page it was on', () => {
    const made = tenSeconds();
    made.redo('retake', [0.15, 0.45], 2 * SECOND, [stroke('again', 1)]);
    expect(programmeLength(made.programme)).toBe(9 * SECOND);
    expect(piecesAt(made, 2.4)).toEqual(['first-1']);
    expect(piecesAt(made, 9)).toEqual(['first-1', 'again', 'first-5', 'first-8']);
    expect(timelineOf(made).at(7 * SECOND).scene.shown).toBe('page-two');
  });

  it('keeps a page made in the stretch as long as something that follows needs it', () => {
    const made = tenSeconds();
    made.redo('retake', [0.55, 0.75], SECOND, [{ kind: 'turn', page: PAGE, atSamples: 0 }]);
    expect(timelineOf(made).at(8.5 * SECOND).scene.shown).toBe('page-two');
    expect(piecesAt(made, 8.5)).toContain('first-8');
    made.redo('retake', [0.5, 1], SECOND, [{ kind: 'turn', page: PAGE, atSamples: 0 }]);
    expect(timelineOf(made).end.pages).toHaveLength(1);
  });

  it('begins on a desk with what came before it, on the page shown there', () => {
    const made = tenSeconds();
    const opening = (kind: 'retake', from: number, to: number) =>
      openingScene(base, made.programme, made.takes, planFor(kind, made.programme, from * SECOND, to * SECOND));
    expect(ids(opening('retake', 2.5, 5))).toEqual([PAGE, [[PAGE, ['first-1', 'first-2']]]]);
    expect(ids(opening('retake', 6, 10))).toEqual([
      'page-two',
      [
        [PAGE, [1, 2, 3, 4, 5].map((n) => `first-${n}`)],
        ['page-two', []],
      ],
    ]);
    const atEnd = openingScene(base, made.programme, made.takes, { kind: 'carry-on' });
    expect(ids(atEnd)).toEqual(ids(timelineOf(made).end));
    const inserted = openingScene(base, made.programme, made.takes, { kind: 'insert', atSamples: 2.5 * SECOND });
    expect(inserted.pages[0].pieces).toHaveLength(2);
  });

  it('can be repeated, and any of its takes can be chosen again', () => {
    const made = tenSeconds();
    const original = made.programme;
    const first = made.redo('retake', [0.2, 0.4], 3 * SECOND, [stroke('one', 1)]);
    const withFirst = made.programme;
    const second = made.record(planFor('retake', withFirst, 2 * SECOND, 5 * SECOND), SECOND, [stroke('two', 0)]);
    const withSecond = made.programme;
    const takeOf = (programme: Programme, id: TakeId) => useTake(programme, id, made.planned);
    const timed = (programme: Programme) => programme.filter(({ kind }) => kind !== 'pages');
    expect(timed(takeOf(withSecond, first))).toEqual(timed(withFirst));
    expect(timed(takeOf(withSecond, 'take-0' as TakeId))).toEqual(timed(original));
    expect(timed(takeOf(withFirst, second))).toEqual(timed(withSecond));
    expect(timed(takeOf(original, second))).toEqual(timed(withSecond));
    expect([...takesIn(withSecond)]).toEqual(['take-0', second]);
  });

  it('can be chosen again where its stretch begins with a still, wherever in it', () => {
    for (const [from, to] of [
      [3, 5],
      [3.5, 6],
      [3.5, 4],
    ]) {
      const made = tenSeconds();
      const [take] = made.programme;
      const still: Segment = { kind: 'still', take: take.take, atSamples: 3 * SECOND, forSamples: 2 * SECOND };
      const { before, after } = split(made.programme, 3 * SECOND);
      made.history.push([...before, still, ...after]);
      const original = made.programme;
      const again = made.record(planFor('retake', original, from * SECOND, to * SECOND), SECOND, [
        stroke('again', 0.5),
      ]);
      const redone = made.programme;
      const timed = (programme: Programme) => programme.filter((one) => segmentLength(one) > 0);
      const back = useTake(redone, 'take-0' as TakeId, made.planned);
      expect(timed(back)).toEqual(timed(original));
      const forth = useTake(back, again, made.planned);
      expect([programmeLength(forth), takesIn(forth)]).toEqual([programmeLength(redone), takesIn(redone)]);
      // Within a still nothing tells where it was.
      if (to > 4.5) expect(timed(forth)).toEqual(timed(redone));
    }
  });

  it('can be dropped without taking along the pages that others need', () => {
    const made = tenSeconds();
    const carriedOn = [{ ...stroke('later', 1), page: 'page-two' } as Mark];
    made.record({ kind: 'carry-on' }, 2 * SECOND, carriedOn);
    const left = withoutTake(made.programme, 'take-0' as TakeId);
    expect(programmeLength(left)).toBe(2 * SECOND);
    const { end } = new Timeline(base, flatten(left, made.takes));
    expect(end.pages.map(({ page, pieces }) => [page.id, pieces.map(({ id }) => id)])).toEqual([
      [PAGE, []],
      ['page-two', ['later']],
    ]);
  });

  it('comes back where it played, whatever was made before', () => {
    fc.assert(
      fc.property(lesson, fc.nat(), ({ programme, planned }, nth) => {
        fc.pre(planned.length > 0);
        const { id } = planned[nth % planned.length];
        expect(withTakeBack(withoutTake(programme, id), programme, id)).toEqual(programme);
      }),
    );
  });

  it('comes back between those it was between, though others were edited since', () => {
    const made = tenSeconds();
    const [first, second] = ['take-0', 'take-1'] as TakeId[];
    made.record({ kind: 'insert', atSamples: 4 * SECOND }, 2 * SECOND, []);
    const before = made.programme;
    const edited = cut(withoutTake(before, second), { fromSamples: SECOND, toSamples: 2 * SECOND }, 'drop');
    const back = withTakeBack(edited, before, second).filter(({ kind }) => kind === 'play');
    expect(back.map(({ take }) => take)).toEqual([first, first, second, first]);
    expect(programmeLength(back)).toBe(11 * SECOND);
  });

  it('is kept but not played where its stretch has gone meanwhile', () => {
    const made = tenSeconds();
    const plan = planFor('retake', made.programme, 2 * SECOND, 4 * SECOND);
    expect(isStretchPlan(plan)).toBe(true);
    const late = { id: 'late' as TakeId, lengthSamples: SECOND, plan };
    expect(placeTake(trim(made.programme, 3 * SECOND, 10 * SECOND), late)).toBeNull();
    const used = useTake(trim(made.programme, 3 * SECOND, 10 * SECOND), late.id, [...made.planned, late]);
    expect(used.at(-1)).toMatchObject({ take: 'late', fromSamples: 0 });
  });
});

describe('a page’s part', () => {
  it('lies between the turns to it and from it', () => {
    const made = tenSeconds();
    const { trail } = timelineOf(made);
    expect(pagePartAt(trail, PAGE, 3 * SECOND)).toEqual({ from: 0, to: 6 * SECOND });
    expect(pagePartAt(trail, PAGE, 6 * SECOND)).toEqual({ from: 6 * SECOND, to: 10 * SECOND });
    expect(pagePartAt(trail, PAGE, -1)).toEqual({ from: 0, to: 6 * SECOND });
  });
});

describe('a new voice', () => {
  it('changes no ink, not even a stroke that crosses its ends', () => {
    const made = tenSeconds();
    const before = timelineOf(made);
    made.redo('re-speak', [0.31, 0.61], 3 * SECOND, []);
    const after = timelineOf(made);
    for (let at = 0; at < 10 * SECOND; at += 1000) {
      expect(ids(after.at(at).scene)).toEqual(ids(before.at(at).scene));
      expect(after.at(at).growing).toEqual(before.at(at).growing);
    }
    const voices = made.programme.map((segment) => voiceOf(segment)?.take);
    expect(voices).toEqual(['take-0', 'take-1', 'take-0']);
  });

  it('lets the ink wait where it is longer, at the holds and at its end', () => {
    const made = tenSeconds();
    made.redo('re-speak', [0.2, 0.4], 5 * SECOND, [], [{ at: 0.75, for: 2 * SECOND }]);
    expect(programmeLength(made.programme)).toBe(13 * SECOND);
    // The stroke of the third second is before the hold, which is at 3.5 s; that of the fourth comes 3 s later.
    expect(piecesAt(made, 3.1)).toContain('first-3');
    expect(piecesAt(made, 6.9)).not.toContain('first-4');
    expect(piecesAt(made, 7.01)).toContain('first-4');
  });

  it('leaves what it does not reach as it was', () => {
    const made = tenSeconds();
    made.redo('re-speak', [0.2, 0.8], SECOND, []);
    expect(made.programme.map((one) => voiceOf(one))).toEqual([
      { take: 'take-0', fromSamples: 0 },
      { take: 'take-1', fromSamples: 0 },
      { take: 'take-0', fromSamples: 3 * SECOND },
    ]);
    expect(withoutTake(made.programme, 'take-1' as TakeId)).toEqual(made.history[1]);
  });
});

describe('new ink', () => {
  it('is in time with the voice that was there, and takes no time after it', () => {
    const made = tenSeconds();
    made.redo('re-ink', [0.2, 0.5], 3 * SECOND + 600, [stroke('new', 1), stroke('last', 3)]);
    expect(programmeLength(made.programme)).toBe(10 * SECOND);
    expect(made.programme.filter((one) => segmentLength(one) > 0).map((one) => [one.take, voiceOf(one)])).toEqual([
      ['take-0', { take: 'take-0', fromSamples: 0 }],
      ['take-1', { take: 'take-0', fromSamples: 2 * SECOND }],
      ['take-0', { take: 'take-0', fromSamples: 5 * SECOND }],
    ]);
    expect(piecesAt(made, 3)).toEqual(['first-1', 'new']);
    expect(piecesAt(made, 5.1)).toEqual(['first-1', 'new', 'last', 'first-5']);
  });
});

describe('what a take begins with', () => {
  const turn = { kind: 'turn', page: PAGE, atSamples: 5 } as const;
  it('is what was changed since the one before, where it carries on, and the page; old ink turns the pages itself', () => {
    const [changed, shown] = [
      { ...turn, atSamples: 0 },
      { kind: 'turn', page: PAGE, atSamples: 0 },
    ];
    expect(openingMarks({ kind: 'carry-on' }, [turn], PAGE)).toEqual([changed, shown]);
    expect(openingMarks({ kind: 'insert', atSamples: 9 }, [turn], PAGE)).toEqual([shown]);
    expect(openingMarks({ kind: 're-speak', fromSamples: 0, replaced: [], holds: [] }, [turn], PAGE)).toEqual([]);
  });
});
