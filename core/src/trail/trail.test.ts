import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isPassing } from '../lesson/mark';
import { applyChange } from '../lesson/scene';
import { base, marks, programme, TAKE_SAMPLES, takeIds, takes } from '../testing/arbitraries';
import { split, trim, whole as wholeOf } from './edit';
import { placeSegments, programmeLength, toProgramme, toTake, rangeOf } from './programme';
import { Timeline } from './timeline';
import { firstAtOrAfter, flatten, type Trail } from './trail';

describe('a programme', () => {
  it('maps time monotonically, and there and back within a sample', () => {
    fc.assert(
      fc.property(programme, fc.nat(TAKE_SAMPLES * 4), (segments, at) => {
        const placed = placeSegments(segments);
        const length = programmeLength(segments);
        fc.pre(length > 0);
        const time = at % length;
        const found = toTake(placed, time)!;
        // All of a still pause is one moment of its take.
        if (found.placed.segment.kind === 'still')
          return void expect(found.takeSamples).toBe(found.placed.segment.atSamples);
        expect(Math.abs(toProgramme(found.placed, found.takeSamples) - time)).toBeLessThanOrEqual(1);
        expect(found.takeSamples).toBeLessThanOrEqual(rangeOf(found.placed.segment).toSamples);
        placed.forEach((one, i) => i > 0 && expect(one.startSamples).toBe(placed[i - 1].endSamples));
      }),
    );
  });

  it('splits into two parts that together last as long', () => {
    fc.assert(
      fc.property(programme, fc.nat(TAKE_SAMPLES * 4), (segments, at) => {
        const { before, after } = split(segments, at);
        const length = programmeLength(segments);
        // Rounding a paced segment in two places may shift the whole by a sample.
        expect(Math.abs(programmeLength(before) + programmeLength(after) - length)).toBeLessThanOrEqual(1);
        expect(Math.abs(programmeLength(before) - Math.min(at, length))).toBeLessThanOrEqual(1);
      }),
    );
  });

  it('plays every mark of its segments within its length, in order', () => {
    fc.assert(
      fc.property(takes, programme, (all, segments) => {
        const trail = flatten(segments, all);
        trail.marks.forEach((mark, i) => {
          expect(mark.atSamples).toBeGreaterThanOrEqual(i === 0 ? 0 : trail.marks[i - 1].atSamples);
          expect(mark.atSamples).toBeLessThanOrEqual(trail.lengthSamples);
        });
      }),
    );
  });

  it('says which take is missing', () => {
    const segments = [wholeOf({ id: takeIds[0], lengthSamples: 10 })];
    expect(() => flatten(segments, new Map())).toThrow(/take-one/);
  });
});

describe('trimming', () => {
  const whole = [wholeOf({ id: takeIds[0], lengthSamples: TAKE_SAMPLES })];

  it('changes no scene that is still played', () => {
    fc.assert(
      fc.property(takes, fc.nat(TAKE_SAMPLES - 2), fc.nat(TAKE_SAMPLES), fc.nat(), (all, from, more, at) => {
        const to = Math.min(TAKE_SAMPLES, from + 1 + more);
        const trimmed = trim(whole, from, to);
        expect(programmeLength(trimmed)).toBe(to - from);
        const original = new Timeline(base, flatten(whole, all));
        const result = new Timeline(base, flatten(trimmed, all));
        const moment = at % (to - from);
        const ids = (timeline: Timeline, time: number) => {
          const { scene } = timeline.at(time);
          return [scene.shown, scene.pages.map((state) => state.pieces.map((piece) => piece.id))];
        };
        expect(ids(result, moment)).toEqual(ids(original, moment + from));
      }),
    );
  });

  it('keeps the same strokes as it kept before, so that their page need not be painted anew', () => {
    fc.assert(
      fc.property(takes, fc.integer({ min: 1, max: TAKE_SAMPLES - 2 }), (all, from) => {
        const strokesOf = (kept: Trail) => kept.marks.flatMap((mark) => (mark.kind === 'ink' ? [mark.stroke] : []));
        const once = strokesOf(flatten(trim(whole, from, TAKE_SAMPLES), all));
        const again = strokesOf(flatten(trim(whole, from + 1, TAKE_SAMPLES), all));
        const begun = all.get(takeIds[0])!.marks.filter(({ atSamples }) => atSamples < from);
        const kept = begun.filter((mark) => mark.kind === 'ink' && !isPassing(mark)).length;
        expect(once.length).toBeGreaterThanOrEqual(kept);
        for (let i = 0; i < kept; i++) expect(again[i]).toBe(once[i]);
      }),
    );
  });

  it('refuses to leave nothing', () => {
    expect(() => trim(whole, 500, 500)).toThrow(RangeError);
    expect(() => trim([], 0, 10)).toThrow(RangeError);
  });

  it('can be repeated: trims of a trim are the trim of both', () => {
    fc.assert(
      fc.property(fc.nat(100_000), fc.nat(100_000), (first, second) => {
        const twice = trim(trim(whole, first, TAKE_SAMPLES), second, TAKE_SAMPLES - first);
        expect(twice).toEqual(trim(whole, first + second, TAKE_SAMPLES));
      }),
    );
  });
});

describe('seeking', () => {
  it('finds the same scene as playing every mark from the start', () => {
    fc.assert(
      fc.property(marks, fc.nat(TAKE_SAMPLES), (some, at) => {
        const timeline = new Timeline(base, { lengthSamples: TAKE_SAMPLES, marks: some });
        const passed = some.filter((mark) => mark.atSamples <= at);
        expect(timeline.at(at).scene).toEqual(passed.reduce(applyChange, base));
        expect(firstAtOrAfter(some, at)).toBe(some.filter((mark) => mark.atSamples < at).length);
      }),
    );
  });

  it('shows growing ink as far as it was written', () => {
    fc.assert(
      fc.property(marks, fc.nat(TAKE_SAMPLES), (some, at) => {
        const { growing } = new Timeline(base, { lengthSamples: TAKE_SAMPLES, marks: some }).at(at);
        let scene = base;
        for (const mark of some) {
          const before = scene;
          scene = applyChange(scene, mark);
          if (mark.kind !== 'ink' || mark.atSamples > at || scene === before) continue;
          const { points } = mark.stroke;
          const ended = mark.atSamples + points.lengthMs * 48 <= at;
          if (!ended) expect(growing.has(mark.stroke.id)).toBe(true);
        }
        for (const count of growing.values()) expect(count).toBeGreaterThanOrEqual(1);
      }),
    );
  });

  it('names every frame in which the picture changes', () => {
    fc.assert(
      fc.property(marks, (some) => {
        const timeline = new Timeline(base, { lengthSamples: TAKE_SAMPLES, marks: some });
        const changed = new Set(timeline.changedFrames(30));
        const samplesOf = (frame: number) => (frame * 48_000) / 30;
        for (let frame = 1; frame < 300; frame++) {
          if (changed.has(frame)) continue;
          const [before, now] = [timeline.at(samplesOf(frame - 1)), timeline.at(samplesOf(frame))];
          expect(now.scene).toEqual(before.scene);
          expect(now.growing).toEqual(before.growing);
        }
      }),
      { numRuns: 30 },
    );
  });
});
