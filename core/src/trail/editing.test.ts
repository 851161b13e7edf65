import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { CaptionId, PageId, PieceId, TakeId } from '../lesson/ids';
import { InkPoints } from '../ink/points';
import { isPassing, type Mark } from '../lesson/mark';
import { newStroke } from '../lesson/piece';
import { base, programme, points, stroke, TAKE_SAMPLES, takeIds, takes } from '../testing/arbitraries';
import { placeCaptions, spansBetween, type Caption } from './captions';
import { placeChapters, type Chapter } from './chapters';
import {
  cut,
  dividedAt,
  moved,
  quickened,
  repeated,
  silenced,
  sounded,
  split,
  whole,
  withStill,
  type Stretch,
} from './edit';
import { NOTHING_EDITED, startedOver } from './edition';
import { withInkEdits, type InkEdit } from './ink-edits';
import {
  placeSegments,
  playsAsRecorded,
  programmeLength,
  rangeOf,
  toProgramme,
  toTake,
  voiceOf,
  type Programme,
  type Segment,
} from './programme';
import type { Take } from './take';
import { Timeline } from './timeline';
import { flatten } from './trail';

const SECOND = 48_000;
const [FIRST, SECOND_TAKE] = takeIds;
const all = [whole({ id: FIRST, lengthSamples: TAKE_SAMPLES })];
const PAGE = base.pages[0].page.id;
const part = fc.double({ min: 0, max: 1, noNaN: true });

const stretchOf = (of: Programme, ends: readonly [number, number]): Stretch => {
  const length = programmeLength(of);
  const [from, to] = [Math.min(...ends), Math.max(...ends)];
  return { fromSamples: Math.floor(from * length), toSamples: Math.floor(to * length) };
};

const edit = fc.record({
  do: fc.constantFrom('keep', 'drop', 'repeat', 'silence', 'sound', 'quicken', 'move', 'still'),
  ends: fc.tuple(part, part),
  at: part,
});
type Edit = typeof edit extends fc.Arbitrary<infer E> ? E : never;

function edited(before: Programme, one: Edit): Programme {
  const stretch = stretchOf(before, one.ends);
  const at = Math.floor(one.at * programmeLength(before));
  switch (one.do) {
    case 'keep':
    case 'drop':
      return cut(before, stretch, one.do);
    case 'repeat':
      return repeated(before, stretch);
    case 'silence':
      return silenced(before, stretch);
    case 'sound':
      return sounded(before, stretch);
    case 'quicken':
      return quickened(before, stretch, 4);
    case 'move':
      return moved(before, stretch, at);
    default:
      return withStill(before, at, SECOND);
  }
}
const edits = fc.array(edit, { maxLength: 6 });
const editedProgramme = fc.tuple(programme, edits).map(([made, some]) => some.reduce(edited, made));

/** A take of strokes alone, each with an id of its own. */
const takeOfInk = (many: fc.ArrayConstraints) =>
  fc.array(fc.tuple(fc.nat(TAKE_SAMPLES - 1), stroke, points), many).map((written): ReadonlyMap<TakeId, Take> => {
    const marks = written
      .map(([atSamples, one, itsPoints], n): Mark => {
        const own = {
          ...one,
          id: `ink-${n}` as PieceId,
          points: itsPoints,
          pen: { ...one.pen, kind: 'pen' as const },
        };
        return { kind: 'ink', page: PAGE, atSamples, stroke: own };
      })
      .sort((a, b) => a.atSamples - b.atSamples);
    return new Map([[FIRST, { id: FIRST, lengthSamples: TAKE_SAMPLES, sound: null, marks }]]);
  });
const inkTake = takeOfInk({ maxLength: 30 });

const inkOf = (of: Programme, played: ReadonlyMap<TakeId, Take>) =>
  flatten(of, played).marks.flatMap((mark) => (mark.kind === 'ink' ? [mark.stroke.id] : []));

describe('an edited programme', () => {
  const moments = fc.array(part, { minLength: 1, maxLength: 5 });
  const long = fc.oneof(takes, takeOfInk({ minLength: 100, maxLength: 200 }));

  it('plays the same whether or not another was played out before', () => {
    fc.assert(
      fc.property(long, fc.array(edit, { minLength: 1, maxLength: 6 }), moments, (played, some, at) => {
        const start = all.filter(({ take }) => played.has(take));
        let made: Programme = start;
        let earlier = new Timeline(base, flatten(made, played));
        for (const one of some) {
          // How far it was worked out must not matter.
          earlier.at(at[0] * earlier.lengthSamples);
          made = edited(made, one);
          const trail = flatten(made, played, earlier.trail);
          const anew = flatten(made, played);
          expect(trail).toEqual(anew);
          const timeline = new Timeline(base, trail, earlier);
          const timelineAnew = new Timeline(base, anew);
          for (const moment of [...at, 1]) {
            const samples = moment * trail.lengthSamples;
            expect(timeline.at(samples)).toEqual(timelineAnew.at(samples));
          }
          expect(timeline.pagesAtEnd).toEqual(timelineAnew.end.pages.map(({ page }) => page.id));
          earlier = timeline;
        }
      }),
      { numRuns: 60 },
    );
  });

  it('ends ink at a splice behind which another part follows than before', () => {
    const written = newStroke({
      id: 'across' as PieceId,
      z: 1,
      pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
      points: InkPoints.from([0, 400, 800].map((sinceMs) => ({ xPt: sinceMs, yPt: 0, pressure: 1, sinceMs }))),
    });
    const marks: Mark[] = [{ kind: 'ink', page: PAGE, atSamples: 4.5 * SECOND, stroke: written }];
    const played = new Map([[FIRST, { id: FIRST, lengthSamples: TAKE_SAMPLES, sound: null, marks }]]);
    const divided = dividedAt(all, 5 * SECOND);
    const earlier = flatten(divided, played);
    expect(earlier.marks).toEqual(marks);
    const without = cut(divided, { fromSamples: 5 * SECOND, toSamples: 6 * SECOND }, 'drop');
    expect(without[0]).toBe(divided[0]);
    expect(flatten(without, played, earlier)).toEqual(flatten(without, played));
    expect(flatten(without, played, earlier).marks).not.toEqual(marks);
  });
});

describe('cutting', () => {
  it('with its ink kept leaves every later scene as it was', () => {
    fc.assert(
      fc.property(takes, fc.tuple(part, part), part, (played, ends, at) => {
        const stretch = stretchOf(all, ends);
        const { fromSamples, toSamples } = stretch;
        const after = new Timeline(base, flatten(cut(all, stretch, 'keep'), played));
        const before = new Timeline(base, flatten(all, played));
        const moment = toSamples + Math.floor(at * (TAKE_SAMPLES - toSamples));
        const seen = (timeline: Timeline, samples: number) => {
          const { look, ...scene } = timeline.at(samples).scene;
          // A look that moves just then is between other marks.
          return [
            scene.shown,
            look === null,
            scene.pages.map(({ page, pieces }) => [page, pieces.map(({ id }) => id)]),
          ];
        };
        expect(seen(after, moment - (toSamples - fromSamples))).toEqual(seen(before, moment));
      }),
    );
  });

  it('with its ink dropped removes exactly the strokes begun in it', () => {
    fc.assert(
      fc.property(inkTake, fc.tuple(part, part), (played, ends) => {
        const { fromSamples, toSamples } = stretchOf(all, ends);
        const kept = played
          .get(FIRST)!
          .marks.filter(({ atSamples }) => atSamples < fromSamples || atSamples >= toSamples)
          .map((mark) => (mark.kind === 'ink' ? mark.stroke.id : null));
        expect(inkOf(cut(all, { fromSamples, toSamples }, 'drop'), played)).toEqual(kept);
      }),
    );
  });

  it('drops no ink that an earlier cut beside it kept', () => {
    const kept = cut(all, { fromSamples: 4 * SECOND, toSamples: 6 * SECOND }, 'keep');
    const both = cut(kept, { fromSamples: 2 * SECOND, toSamples: 4 * SECOND }, 'drop');
    expect(both.map((one) => [one.kind, rangeOf(one).fromSamples / SECOND])).toEqual([
      ['play', 0],
      ['pages', 2],
      ['at-once', 4],
      ['play', 6],
    ]);
  });

  it('lets a stroke that crosses it go on behind it', () => {
    const points = InkPoints.from([0, 4000].map((sinceMs) => ({ xPt: sinceMs / 10, yPt: 10, pressure: 0.5, sinceMs })));
    const pen = { kind: 'pen', color: '#1f2a44', widthPt: 3 } as const;
    const long = newStroke({ id: 'long' as PieceId, z: 1, pen, points });
    const marks: Mark[] = [{ kind: 'ink', page: PAGE, atSamples: 3 * SECOND, stroke: long }];
    const written = new Map([[FIRST, { id: FIRST, lengthSamples: TAKE_SAMPLES, sound: null, marks }]]);
    const [played] = flatten(cut(all, { fromSamples: 4 * SECOND, toSamples: 6 * SECOND }, 'keep'), written).marks;
    expect(played.kind === 'ink' && played.stroke.points.lengthMs).toBeCloseTo(2000, 0);
  });
});

describe('editing a programme', () => {
  it('keeps every segment inside its takes, and time mapping there and back the identity', () => {
    fc.assert(
      fc.property(editedProgramme, part, (made, at) => {
        const placed = placeSegments(made);
        for (const { segment, startSamples, endSamples } of placed) {
          const { fromSamples, toSamples } = rangeOf(segment);
          expect(fromSamples).toBeGreaterThanOrEqual(0);
          expect(toSamples).toBeGreaterThanOrEqual(fromSamples);
          expect(toSamples).toBeLessThanOrEqual(TAKE_SAMPLES);
          const voice = voiceOf(segment);
          if (voice) expect(voice.fromSamples + endSamples - startSamples).toBeLessThanOrEqual(TAKE_SAMPLES);
        }
        const moment = Math.floor(at * programmeLength(made));
        const found = toTake(placed, moment);
        if (!found || found.placed.segment.kind === 'still') return;
        expect(Math.abs(toProgramme(found.placed, found.takeSamples) - moment)).toBeLessThanOrEqual(1);
      }),
    );
  });

  it('changes its length by what was cut, repeated, quickened or put in', () => {
    fc.assert(
      fc.property(programme, edit, (before, one) => {
        const stretch = stretchOf(before, one.ends);
        const length = stretch.toSamples - stretch.fromSamples;
        const change = programmeLength(edited(before, one)) - programmeLength(before);
        const meant = {
          keep: -length,
          drop: -length,
          repeat: length,
          silence: 0,
          sound: 0,
          move: 0,
          still: before.length > 0 ? SECOND : 0,
          quicken: null,
        }[one.do];
        // A paced segment that is divided may be rounded twice.
        if (meant !== null) expect(Math.abs(change - meant)).toBeLessThanOrEqual(before.length + 2);
        else expect(change).toBeLessThanOrEqual(2);
      }),
    );
  });

  it('hears nothing in what is silenced, and all of it again when it sounds', () => {
    fc.assert(
      fc.property(fc.tuple(part, part), (ends) => {
        const stretch = stretchOf(all, ends);
        const { before, after } = split(silenced(all, stretch), stretch.fromSamples);
        const inside = split(after, stretch.toSamples - stretch.fromSamples).before;
        expect(inside.every((segment) => voiceOf(segment) === null)).toBe(true);
        expect(before.every((segment) => voiceOf(segment) !== null)).toBe(true);
        expect(sounded(silenced(all, stretch), stretch)).toEqual(all);
      }),
    );
  });

  it('moves a stretch back to where it was', () => {
    const stretch = { fromSamples: 6 * SECOND, toSamples: 8 * SECOND };
    const earlier = moved(all, stretch, 2 * SECOND);
    const times = (of: Programme) =>
      of.filter(playsAsRecorded).map((one) => [one.fromSamples / SECOND, one.toSamples / SECOND]);
    expect(times(earlier)).toEqual([
      [0, 2],
      [6, 8],
      [2, 6],
      [8, 10],
    ]);
    const back = moved(earlier, { fromSamples: 2 * SECOND, toSamples: 4 * SECOND }, 8 * SECOND);
    expect(times(back)).toEqual([
      [0, 2],
      [2, 10],
    ]);
  });

  it('does not let ink that lies there already grow once more where it is repeated', () => {
    fc.assert(
      fc.property(inkTake, part, (played, at) => {
        const timeline = new Timeline(
          base,
          flatten(repeated(all, { fromSamples: 0, toSamples: TAKE_SAMPLES }), played),
        );
        const { growing, scene } = timeline.at(TAKE_SAMPLES + Math.floor(at * TAKE_SAMPLES));
        const begun = played.get(FIRST)!.marks.length;
        expect(scene.pages[0].pieces.length).toBe(begun);
        for (const id of growing.keys())
          expect(played.get(FIRST)!.marks.some((mark) => mark.kind === 'ink' && mark.stroke.id === id)).toBe(true);
        expect(timeline.at(2 * TAKE_SAMPLES).growing.size).toBe(0);
      }),
    );
  });

  it('starts over with every take where it was recorded', () => {
    const planned = [FIRST, SECOND_TAKE].map((id) => ({
      id,
      lengthSamples: TAKE_SAMPLES,
      plan: { kind: 'carry-on' } as const,
    }));
    const recorded = planned.map((one) => whole(one));
    fc.assert(
      fc.property(edits, (some) => {
        const tidied = {
          ...NOTHING_EDITED,
          programme: some.reduce<Programme>(edited, recorded),
          inkEdits: [{ stroke: 'x' as PieceId, isOut: true as const }],
        };
        const over = startedOver(tidied, planned);
        expect([over.programme, over.inkEdits]).toEqual([recorded, []]);
      }),
    );
  });
});

describe('ink by meaning', () => {
  const ids = (of: { base: typeof base; takes: ReadonlyMap<TakeId, Take> }, at: number) =>
    new Timeline(of.base, flatten(all, of.takes))
      .at(at)
      .scene.pages[0].pieces.map(({ id }) => id)
      .sort();

  it('takes strokes out, and leaves all others as they were', () => {
    fc.assert(
      fc.property(inkTake, fc.array(fc.nat(29)), part, (played, out, at) => {
        const outIds = out.map((n) => `ink-${n}` as PieceId);
        const edited = withInkEdits(
          { base, takes: played },
          outIds.map((id) => ({ stroke: id, isOut: true })),
          all,
        );
        const moment = Math.floor(at * TAKE_SAMPLES);
        expect(ids(edited, moment)).toEqual(ids({ base, takes: played }, moment).filter((id) => !outIds.includes(id)));
      }),
    );
  });

  it('lets strokes appear at another moment, or lie there from the start', () => {
    fc.assert(
      fc.property(
        inkTake,
        fc.nat(29),
        fc.option(fc.nat(TAKE_SAMPLES - 1), { nil: 'start' as const }),
        (played, n, to) => {
          const written = played.get(FIRST)!.marks.find((mark) => mark.kind === 'ink' && mark.stroke.id === `ink-${n}`);
          fc.pre(written !== undefined);
          const id = `ink-${n}` as PieceId;
          const at = to === 'start' ? to : { take: FIRST, atSamples: to };
          const edited = withInkEdits({ base, takes: played }, [{ stroke: id, at }], all);
          const begins = to === 'start' ? 0 : to;
          expect(ids(edited, begins)).toContain(id);
          if (begins > 0) expect(ids(edited, begins - 1)).not.toContain(id);
          expect(ids(edited, TAKE_SAMPLES)).toEqual(ids({ base, takes: played }, TAKE_SAMPLES));
          const { marks } = edited.takes.get(FIRST)!;
          marks.forEach((mark, i) => i > 0 && expect(mark.atSamples).toBeGreaterThanOrEqual(marks[i - 1].atSamples));
        },
      ),
    );
  });

  it('never lets a stroke come before its page, nor after it was rubbed out', () => {
    const ink = fc.sample(stroke, 1)[0];
    const second = { ...base.pages[0].page, id: 'page-two' as PageId };
    const own = { ...ink, pen: { ...ink.pen, kind: 'pen' as const } };
    const marks: Mark[] = [
      { kind: 'add-page', page: second, after: PAGE, atSamples: 2 * SECOND },
      { kind: 'ink', page: second.id, stroke: own, atSamples: 3 * SECOND },
      { kind: 'lift', page: second.id, pieceIds: [own.id], atSamples: 5 * SECOND },
    ];
    const played = new Map([[FIRST, { id: FIRST, lengthSamples: TAKE_SAMPLES, sound: null, marks }]]);
    const shownAt = (at: InkEdit['at'], seconds: number) => {
      const edited = withInkEdits({ base, takes: played }, [{ stroke: own.id, at }], all);
      const { scene } = new Timeline(edited.base, flatten(all, edited.takes)).at(seconds * SECOND);
      return scene.pages.at(-1)!.pieces.length;
    };
    expect([shownAt('start', 2.5), shownAt('start', 6)]).toEqual([1, 0]);
    expect([1, 2.5, 6].map((s) => shownAt({ take: FIRST, atSamples: SECOND }, s))).toEqual([0, 1, 0]);
    expect([4, 6].map((s) => shownAt({ take: FIRST, atSamples: 8 * SECOND }, s))).toEqual([0, 0]);
  });

  it('lets a stroke come with its page where it is moved before the take that makes that', () => {
    const own = newStroke({ ...fc.sample(stroke, 1)[0], pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 } });
    const second = { ...base.pages[0].page, id: 'page-two' as PageId };
    const [before, maker] = takeIds;
    const take = (id: TakeId, marks: Mark[]): [TakeId, Take] => [
      id,
      { id, lengthSamples: 10 * SECOND, sound: null, marks },
    ];
    const takes = new Map([
      take(before, []),
      take(maker, [
        { kind: 'add-page', page: second, after: PAGE, atSamples: 2 * SECOND },
        { kind: 'ink', page: second.id, stroke: own, atSamples: 3 * SECOND },
      ]),
    ]);
    const segmentOf = (id: TakeId): Segment => ({
      kind: 'play',
      take: id,
      fromSamples: 0,
      toSamples: 10 * SECOND,
      pace: 1,
    });
    const move: InkEdit[] = [{ stroke: own.id, at: { take: before, atSamples: 5 * SECOND } }];
    const seenFrom = (programme: Programme) => {
      const edited = withInkEdits({ base, takes }, move, programme);
      const timeline = new Timeline(edited.base, flatten(programme, edited.takes));
      return Array.from({ length: 21 }, (_, n) => n).find((seconds) =>
        timeline.at(seconds * SECOND).scene.pages.some(({ pieces }) => pieces.length > 0),
      );
    };
    // Its page comes at 12 s; where the other take plays second, the stroke comes at its moment, at 15 s.
    expect(seenFrom([segmentOf(before), segmentOf(maker)])).toBe(12);
    expect(seenFrom([segmentOf(maker), segmentOf(before)])).toBe(15);
  });

  it('works nothing out anew that an edit leaves alone', () => {
    const strokes = fc.sample(stroke, 40).map((one, n) => newStroke({ ...one, id: `own-${n}` as PieceId }));
    const marks: Mark[] = strokes.map((one, n) => ({
      kind: 'ink',
      page: PAGE,
      stroke: { ...one, pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 } },
      atSamples: n * SECOND,
    }));
    const takes = new Map(
      takeIds.map((id): [TakeId, Take] => [id, { id, lengthSamples: 40 * SECOND, sound: null, marks }]),
    );
    const programme = takeIds.map((take): Segment => ({
      kind: 'play',
      take,
      fromSamples: 100,
      toSamples: 40 * SECOND,
      pace: 1,
    }));
    const red: InkEdit[] = [{ stroke: strokes[30].id, color: '#d9482b' }];
    const first = withInkEdits({ base, takes }, red, programme);
    expect(withInkEdits({ base, takes }, red, [...programme])).toBe(first);
    const both: InkEdit[] = [...red, { stroke: strokes[35].id, isOut: true }];
    const second = withInkEdits({ base, takes }, both, programme);
    const [was, is] = [first, second].map((one) => one.takes.get(takeIds[0])!.marks);
    expect(is.slice(0, 35).every((mark, n) => mark === was[n])).toBe(true);
    const earlier = flatten(programme, first.takes);
    const later = flatten(programme, second.takes, earlier);
    expect(later).toEqual(flatten(programme, second.takes));
    // A take that is not edited is the same one, and plays as it did.
    const only = withInkEdits({ base, takes }, [{ stroke: 'nobody' as PieceId, isOut: true }], programme);
    expect(only.takes.get(takeIds[1])).toBe(takes.get(takeIds[1]));
  });

  it('recolours strokes in whatever state they are', () => {
    const ink = { ...fc.sample(stroke, 1)[0], id: 'one' as PieceId };
    const marks: Mark[] = [
      { kind: 'ink', page: PAGE, stroke: { ...ink, pen: { ...ink.pen, kind: 'pen' } }, atSamples: 0 },
      { kind: 'alter', page: PAGE, pieces: [{ ...ink, opacity: 0.5 }], atSamples: SECOND },
    ];
    const played = new Map([[FIRST, { id: FIRST, lengthSamples: TAKE_SAMPLES, sound: null, marks }]]);
    const edited = withInkEdits({ base, takes: played }, [{ stroke: ink.id, color: '#12776f' }], all);
    for (const at of [0, 2 * SECOND]) {
      const [piece] = new Timeline(base, flatten(all, edited.takes)).at(at).scene.pages[0].pieces;
      expect(piece.kind === 'stroke' && piece.pen.color).toBe('#12776f');
    }
    expect(marks[0].kind === 'ink' && marks[0].stroke.pen.color).toBe(ink.pen.color);
  });
});

describe('chapters and captions', () => {
  const moment = fc.record({ take: fc.constantFrom(...takeIds), atSamples: fc.nat(TAKE_SAMPLES) });
  const chapters = fc.array(
    fc
      .tuple(moment, fc.option(fc.constantFrom('Leaving the berth', 'Ebb'), { nil: null }))
      .map(([at, title]): Chapter => ({ ...at, title })),
    { maxLength: 6 },
  );
  const captions = fc.array(fc.tuple(moment, fc.integer({ min: 1, max: 3 * SECOND })), { maxLength: 8 }).map((made) =>
    made.map(([{ take, atSamples }, length], n): Caption => ({
      id: `caption-${n}` as CaptionId,
      text: 'Slack water',
      spans: [{ take, fromSamples: atSamples, toSamples: atSamples + length }],
    })),
  );

  it('stay inside the programme and in order, whatever is edited', () => {
    fc.assert(
      fc.property(takes, editedProgramme, chapters, captions, (played, made, own, said) => {
        const length = programmeLength(made);
        const pages = new Timeline(base, flatten(made, played)).pagesAtEnd;
        const placed = placeChapters({ shownFirst: base.shown, pages }, made, played, own);
        placed.forEach(({ startSamples }, i) => {
          expect(startSamples).toBeGreaterThan(i === 0 ? -1 : placed[i - 1].startSamples);
          expect(startSamples).toBeLessThanOrEqual(length);
        });
        const cues = placeCaptions(made, said);
        cues.forEach(({ startSamples, endSamples }, i) => {
          expect(startSamples).toBeGreaterThanOrEqual(i === 0 ? 0 : cues[i - 1].startSamples);
          expect(endSamples).toBeGreaterThan(startSamples);
          expect(endSamples).toBeLessThanOrEqual(length);
        });
      }),
    );
  });

  it('a caption laid over a stretch is read there, whatever splices it crosses', () => {
    fc.assert(
      fc.property(fc.tuple(part, part), edits, (ends, some) => {
        const made = some.filter((one) => one.do !== 'repeat').reduce<Programme>(edited, all);
        const stretch = stretchOf(made, ends);
        fc.pre(stretch.toSamples - stretch.fromSamples > SECOND);
        const spans = spansBetween(made, stretch.fromSamples, stretch.toSamples);
        const heard = spans.reduce((sum, one) => sum + one.toSamples - one.fromSamples, 0);
        fc.pre(heard > 0);
        const cues = placeCaptions(made, [{ id: 'one' as CaptionId, text: 'Ebb', spans }]);
        for (const { startSamples, endSamples } of cues) {
          expect(startSamples).toBeGreaterThanOrEqual(stretch.fromSamples - 8);
          expect(endSamples).toBeLessThanOrEqual(stretch.toSamples + 8);
        }
      }),
    );
  });

  it('follow what is cut, moved and repeated', () => {
    const spans = [{ take: FIRST, fromSamples: 4 * SECOND, toSamples: 6 * SECOND }];
    const said: Caption[] = [{ id: 'one' as CaptionId, text: 'Ebb', spans }];
    const at = (of: Programme) =>
      placeCaptions(of, said).map(({ startSamples, endSamples }) => [startSamples / SECOND, endSamples / SECOND]);
    expect(at(cut(all, { fromSamples: SECOND, toSamples: 3 * SECOND }, 'drop'))).toEqual([[2, 4]]);
    expect(at(cut(all, { fromSamples: 4.5 * SECOND, toSamples: 5 * SECOND }, 'keep'))).toEqual([[4, 5.5]]);
    expect(at(cut(all, { fromSamples: 3 * SECOND, toSamples: 7 * SECOND }, 'keep'))).toEqual([]);
    expect(at(silenced(all, { fromSamples: 5 * SECOND, toSamples: 6 * SECOND }))).toEqual([[4, 5]]);
    expect(at(withStill(all, 2 * SECOND, SECOND))).toEqual([[5, 7]]);
    expect(at(repeated(all, { fromSamples: 4 * SECOND, toSamples: 7 * SECOND }))).toEqual([
      [4, 6],
      [7, 9],
    ]);
    expect(at(moved(all, { fromSamples: 4 * SECOND, toSamples: 6 * SECOND }, 0))).toEqual([[0, 2]]);
  });

  it('come from page turns, and are renamed, taken away and added', () => {
    const second = { ...base.pages[0].page, id: 'page-two' as PageId };
    const marks: Mark[] = [
      { kind: 'turn', page: PAGE, atSamples: 0 },
      { kind: 'add-page', page: second, after: PAGE, atSamples: 4 * SECOND },
      { kind: 'turn', page: second.id, atSamples: 4 * SECOND },
      { kind: 'turn', page: PAGE, atSamples: 7 * SECOND },
    ];
    const played = new Map([[FIRST, { id: FIRST, lengthSamples: TAKE_SAMPLES, sound: null, marks }]]);
    const placed = (of: Programme, own: readonly Chapter[] = []) => {
      const pages = new Timeline(base, flatten(of, played)).pagesAtEnd;
      return placeChapters({ shownFirst: base.shown, pages }, of, played, own).map((one) => [
        one.startSamples / SECOND,
        one.title,
      ]);
    };
    expect(placed(all)).toEqual([
      [0, 'Page 1'],
      [4, 'Page 2'],
      [7, 'Page 1'],
    ]);
    const own = [
      { take: FIRST, atSamples: 4 * SECOND, title: 'The second bearing' },
      { take: FIRST, atSamples: 7 * SECOND, title: null },
      { take: FIRST, atSamples: 5 * SECOND, title: 'A check' },
    ];
    expect(placed(cut(all, { fromSamples: SECOND, toSamples: 3 * SECOND }, 'keep'), own)).toEqual([
      [0, 'Page 1'],
      [2, 'The second bearing'],
      [3, 'A check'],
    ]);
  });
});

describe('what is only seen for a while', () => {
  it('is not seen in a stretch that takes no time', () => {
    fc.assert(
      fc.property(takes, fc.tuple(part, part), (played, ends) => {
        const stretch = stretchOf(all, ends);
        const { marks } = flatten(cut(all, stretch, 'keep'), played);
        const passing = played.get(FIRST)!.marks.filter(isPassing);
        const outside = passing.filter(
          ({ atSamples }) => atSamples < stretch.fromSamples || atSamples >= stretch.toSamples,
        );
        expect(marks.filter(isPassing)).toHaveLength(outside.length);
      }),
    );
  });
});
