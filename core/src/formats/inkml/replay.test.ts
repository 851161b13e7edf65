import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { InkPoints } from '../../ink/points';
import type { PageId, PieceId } from '../../lesson/ids';
import { blankPage } from '../../lesson/page';
import { newStroke } from '../../lesson/piece';
import { sceneOf, shownPage } from '../../lesson/scene';
import { msToSamples, samplesToMs } from '../../trail/clock';
import { Timeline } from '../../trail/timeline';
import { readInkMl } from './read-inkml';
import { LONGEST_PAUSE_MS, replayOf, type TimedStroke } from './replay';
import { strokesOfInk } from './strokes-of-ink';

const [ONE, OTHER] = ['page-one' as PageId, 'page-other' as PageId];
const pen = { kind: 'pen', color: '#1f2a44', widthPt: 2 } as const;

const timed = (n: number, atMs: number, lastsMs: number, page = ONE): TimedStroke => {
  const points = InkPoints.from([
    { xPt: n, yPt: 0, pressure: 0.5, sinceMs: 0 },
    { xPt: n, yPt: 9, pressure: 0.5, sinceMs: lastsMs },
  ]);
  return { page, atMs, stroke: newStroke({ id: `stroke-${n}` as PieceId, z: n + 1, pen, points }) };
};
const inkOf = (strokes: TimedStroke[], shown = ONE) =>
  replayOf(strokes, shown)!.marks.flatMap((mark) => (mark.kind === 'ink' ? [mark] : []));

describe('ink that is written again', () => {
  it('has each stroke at its own time, in the order in which they were written, whatever their order in the file', () => {
    const strokes = [timed(2, 4000, 300), timed(0, 1000, 500), timed(1, 1800, 100)];
    const { marks, lengthSamples } = replayOf(strokes, ONE)!;
    expect(marks.map((mark) => [mark.kind, samplesToMs(mark.atSamples)])).toEqual([
      ['ink', 500],
      ['ink', 1300],
      ['ink', 3500],
    ]);
    expect(samplesToMs(lengthSamples)).toBe(4300);
  });

  it('waits ten seconds where nobody wrote for longer, and turns to the page that is written on', () => {
    const day = 24 * 3600 * 1000;
    const { marks } = replayOf([timed(0, day, 100), timed(1, 3 * day, 100, OTHER), timed(2, 3 * day + 50, 10)], ONE)!;
    expect(marks.map((mark) => [mark.kind, samplesToMs(mark.atSamples)])).toEqual([
      ['ink', 500],
      ['turn', 10_600],
      ['ink', 10_600],
      ['turn', 10_650],
      ['ink', 10_650],
    ]);
  });

  it('does not tell when it was written where all of it began at once, or it is longer than a day', () => {
    expect(replayOf([], ONE)).toBe(null);
    expect(replayOf([timed(0, 5, 100)], ONE)).toBe(null);
    expect(replayOf([timed(0, 0, 100), timed(1, 0, 100)], ONE)).toBe(null);
    expect(replayOf([timed(0, 0, 25 * 3600 * 1000), timed(1, 1, 100)], ONE)).toBe(null);
  });

  it('keeps all strokes, their order and the times between them, whatever a file says', () => {
    const stroke = fc.record({
      atMs: fc.oneof(fc.double({ noNaN: true, noDefaultInfinity: true }), fc.integer({ min: 0, max: 60_000 })),
      lastsMs: fc.nat(20_000),
      page: fc.constantFrom(ONE, OTHER),
    });
    fc.assert(
      fc.property(fc.array(stroke, { minLength: 2, maxLength: 12 }), (given) => {
        const strokes = given.map(({ atMs, lastsMs, page }, n) => timed(n, atMs, lastsMs, page));
        const replay = replayOf(strokes, ONE);
        expect(replay === null).toBe(new Set(given.map(({ atMs }) => atMs)).size === 1);
        if (!replay) return;
        const written = inkOf(strokes);
        expect(written.map((mark) => mark.stroke.id).toSorted()).toEqual(
          strokes.map((one) => one.stroke.id).toSorted(),
        );
        const timeline = new Timeline(
          sceneOf([ONE, OTHER].map((id) => ({ page: blankPage(id, { widthPt: 600, heightPt: 400 }), pieces: [] }))),
          { lengthSamples: replay.lengthSamples, marks: replay.marks },
        );
        let [beforeMs, beforeSamples] = [-Infinity, 0];
        for (const { stroke: one, atSamples } of written) {
          const { atMs } = strokes.find(({ stroke: { id } }) => id === one.id)!;
          expect(atMs).toBeGreaterThanOrEqual(beforeMs);
          expect(atSamples).toBeGreaterThanOrEqual(beforeSamples);
          const lastThen = written.findLast((mark) => mark.atSamples === atSamples)!;
          expect(shownPage(timeline.at(atSamples).scene).page.id).toBe(lastThen.page);
          const isNear = atMs - beforeMs <= LONGEST_PAUSE_MS;
          const isExact = Math.abs(atMs) < 2 ** 40;
          if (isNear && isExact) {
            expect(Math.abs(atSamples - beforeSamples - msToSamples(atMs - beforeMs))).toBeLessThanOrEqual(1);
          }
          [beforeMs, beforeSamples] = [atMs, atSamples];
        }
        expect(timeline.end.pages.flatMap(({ pieces }) => pieces)).toHaveLength(strokes.length);
      }),
    );
  });
});

describe('ink of a file that tells times', () => {
  it('is written as the Recommendation says: by offsets, and by a channel of times (InkML, 3.2.1 and 4.1)', () => {
    const source = `<ink xmlns="http://www.w3.org/2003/InkML">
      <trace timeOffset="2000">1 1, 2 2</trace><trace timeOffset="500">1 1, 2 2</trace><trace timeOffset="4500">3 3</trace></ink>`;
    let ids = 0;
    const page = { left: 0, top: 0, right: 600, bottom: 400 };
    const brought = strokesOfInk(readInkMl(source).traces, { page, pen, newId: () => `piece-${ids++}` as PieceId });
    const strokes = brought.strokes.map((stroke, n) => ({ stroke, page: ONE, atMs: brought.atMs[n]! }));
    expect(inkOf(strokes).map((mark) => [mark.stroke.id, samplesToMs(mark.atSamples)])).toEqual([
      ['piece-1', 500],
      ['piece-0', 2000],
      ['piece-2', 4500],
    ]);
  });
});
