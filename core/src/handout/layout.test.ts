import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { layoutSheet, wordColumns, wordsHead, type BoxPt } from './layout';
import {
  HANDOUT_BESIDE,
  HANDOUT_MOMENTS,
  handoutSettings,
  PAGES_A_SHEET,
  SHEET_SIZES,
  USUAL_HANDOUT,
} from './settings';

const settings = fc.record({
  moments: fc.constantFrom(...HANDOUT_MOMENTS),
  ink: fc.constantFrom('with' as const, 'both' as const),
  perSheet: fc.constantFrom(...PAGES_A_SHEET),
  size: fc.constantFrom('a4' as const, 'letter' as const),
  beside: fc.constantFrom(...HANDOUT_BESIDE),
  hasNumbers: fc.boolean(),
  hasCodes: fc.boolean(),
});
/** The narrowest and the widest page that there may be are 1 : 200 and 200 : 1. */
const aspect = fc.double({ min: 1 / 200, max: 200, noNaN: true });

const within = (inner: BoxPt, outer: { widthPt: number; heightPt: number }) =>
  inner.leftPt >= 0 &&
  inner.topPt >= 0 &&
  inner.leftPt + inner.widthPt <= outer.widthPt + 0.01 &&
  inner.topPt + inner.heightPt <= outer.heightPt + 0.01;
const apart = (one: BoxPt, other: BoxPt) =>
  one.leftPt + one.widthPt <= other.leftPt + 0.01 ||
  other.leftPt + other.widthPt <= one.leftPt + 0.01 ||
  one.topPt + one.heightPt <= other.topPt + 0.01 ||
  other.topPt + other.heightPt <= one.topPt + 0.01;

describe('a sheet of a hand-out', () => {
  it('has room for all its pages, which lie apart from one another and from what is written beside them', () => {
    fc.assert(
      fc.property(settings, aspect, (given, shape) => {
        const sheet = layoutSheet(given, shape);
        expect(handoutSettings.parse(given)).toEqual(given);
        expect(sheet.cells).toHaveLength(given.perSheet);
        const pages = sheet.cells.map(({ page }) => page);
        expect(pages.every((page) => page.widthPt > 0 && page.heightPt > 0 && within(page, sheet))).toBe(true);
        for (const { page, beside, label, code } of sheet.cells) {
          if (beside)
            expect([beside.widthPt > 50, beside.heightPt > 22, within(beside, sheet)]).toEqual([true, true, true]);
          for (const other of [beside, label, code]) if (other) expect(apart(page, other)).toBe(true);
          if (code) expect(within({ ...code, leftPt: Math.max(0, code.leftPt) }, sheet)).toBe(true);
          expect([beside !== null, label !== null, code !== null]).toEqual([
            given.beside !== 'nothing',
            given.hasNumbers,
            given.hasCodes,
          ]);
        }
        pages.forEach((one, n) => pages.slice(n + 1).forEach((other) => expect(apart(one, other)).toBe(true)));
      }),
    );
  });

  it('lies across where wide pages become larger by it, and stays upright for others', () => {
    const widthOf = (shape: number) => layoutSheet(USUAL_HANDOUT, shape).widthPt;
    expect([widthOf(16 / 9), widthOf(0.7)]).toEqual([841.89, 595.28]);
  });

  it('has columns for words that go on, none wider than is read with ease', () => {
    for (const { widthPt, heightPt } of Object.values(SHEET_SIZES)) {
      for (const sheet of [
        { widthPt, heightPt },
        { widthPt: heightPt, heightPt: widthPt },
      ]) {
        const boxes = [wordsHead(sheet), ...wordColumns(sheet)];
        boxes.forEach((one, n) => boxes.slice(n + 1).forEach((other) => expect(apart(one, other)).toBe(true)));
        for (const box of boxes.slice(1)) {
          expect([within(box, sheet), box.widthPt > 200, box.widthPt <= 420]).toEqual([true, true, true]);
        }
      }
    }
  });
});
