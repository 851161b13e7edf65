import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PageId } from '../lesson/ids';
import type { Mark } from '../lesson/mark';
import { wideSquaredPage } from '../lesson/page';
import { base, marks, TAKE_SAMPLES } from '../testing/arbitraries';
import { inkAt, SECOND } from '../testing/timed-ink';
import { pageAt } from './page-at';
import { stepPages, stepsIn } from './steps';
import { Timeline } from './timeline';

const other = 'other-page' as PageId;
const strokeIn = (mark: Mark) => (mark as Extract<Mark, { kind: 'ink' }>).stroke;
const inSeconds = (written: Mark[], most?: number) =>
  stepsIn({ lengthSamples: 60 * SECOND, marks: written }, most).map(({ fromSamples, toSamples }) => [
    fromSamples / SECOND,
    toSamples / SECOND,
  ]);

describe('the steps of a trail', () => {
  it('end where nothing is written for two seconds, and where another page is written on', () => {
    const written = [
      inkAt('a', 1, 2),
      inkAt('b', 3, 4),
      inkAt('c', 7, 9),
      inkAt('d', 10, 11, other),
      inkAt('e', 12, 13),
    ];
    expect(inSeconds(written)).toEqual([
      [1, 4],
      [7, 9],
      [10, 11],
      [12, 13],
    ]);
  });

  it('are none of what was there before, is only pointed at, fades, or lies beyond the end', () => {
    const fading = inkAt('b', 5, 6);
    if (fading.kind === 'ink') fading.stroke = { ...fading.stroke, pen: { ...fading.stroke.pen, kind: 'fading' } };
    expect(inSeconds([inkAt('a', 0, 1), fading, inkAt('c', 60, 61)])).toEqual([]);
    expect(inSeconds([inkAt('c', 58, 70)])).toEqual([[58, 60]]);
  });

  it('are no more than can be looked through', () => {
    const many = Array.from({ length: 20 }, (_, n) => inkAt(`s${n}`, 1 + n * 3, 2 + n * 3));
    expect(inSeconds(many)).toHaveLength(20);
    expect(inSeconds(many, 12)).toEqual([[1, 59]]);
  });

  it('are in order, apart from one another and within the trail, whatever happens in it', () => {
    fc.assert(
      fc.property(marks, fc.nat(TAKE_SAMPLES), fc.integer({ min: 1, max: 60 }), (made, lengthSamples, most) => {
        const steps = stepsIn({ marks: made, lengthSamples }, most);
        let before = 0;
        for (const { fromSamples, toSamples } of steps) {
          expect(fromSamples).toBeGreaterThanOrEqual(before);
          expect(toSamples).toBeGreaterThanOrEqual(fromSamples);
          expect(toSamples).toBeLessThanOrEqual(lengthSamples);
          before = toSamples;
        }
        const turned = steps.filter(({ page }, n) => page !== steps[n - 1]?.page).length;
        expect(steps.length).toBeLessThanOrEqual(Math.max(most, turned));
      }),
    );
  });

  it('show each page before its first step and after each of them', () => {
    const written = [inkAt('a', 1, 2), inkAt('b', 6, 7), inkAt('c', 10, 11)];
    const timeline = new Timeline(base, { lengthSamples: 20 * SECOND, marks: written });
    const seen = stepPages(timeline.trail).map((one) => [
      one.n,
      one.isAfter,
      pageAt(timeline, one)!
        .pieces.map(({ id }) => id)
        .join(''),
      [one.said.fromSamples / SECOND, one.said.toSamples / SECOND],
    ]);
    expect(seen).toEqual([
      [1, false, '', [0, 1]],
      [1, true, 'a', [1, 6]],
      [2, true, 'ab', [6, 10]],
      [3, true, 'abc', [10, 20]],
    ]);
  });

  it('are blank as their page was prepared, or without strokes where it came about meanwhile, and nothing where it is gone', () => {
    const made = wideSquaredPage(other);
    const prepared = { ...base, pages: [{ ...base.pages[0], pieces: [strokeIn(inkAt('prepared', 0, 1))] }] };
    const written: Mark[] = [
      inkAt('a', 1, 2),
      { kind: 'add-page', atSamples: 3 * SECOND, page: made, after: null },
      inkAt('b', 4, 5, other),
      { kind: 'drop-page', atSamples: 8 * SECOND, page: other },
    ];
    const timeline = new Timeline(prepared, { lengthSamples: 20 * SECOND, marks: written });
    const idsAt = (page: PageId, seconds: number, isBlank: boolean) =>
      pageAt(timeline, { page, atSamples: seconds * SECOND, isBlank })?.pieces.map(({ id }) => id);
    expect(idsAt(base.shown, 6, false)).toEqual(['prepared', 'a']);
    expect(idsAt(base.shown, 6, true)).toEqual(['prepared']);
    expect(idsAt(other, 6, false)).toEqual(['b']);
    expect(idsAt(other, 6, true)).toEqual([]);
    expect([idsAt(other, 2, false), idsAt(other, 9, true)]).toEqual([undefined, undefined]);
  });
});
