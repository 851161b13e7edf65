import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { createCanvas, GlobalFonts } from '@napi-rs/canvas';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { flattened } from '../drawing/path';
import type { TextStyle } from '../lesson/content';
import { FormulaProblem, setFormula } from './formula';
import { PlotProblem } from './equation';
import { drawPlot, PLOT_SIZE, ticksOf } from './plot';
import { sampled } from './sampling';
import { parsedPath } from './svg-path';
import { LINE_SHARE } from './line-share';
import { setLine } from './line';
import { setText } from './text';
import { FontFile, Typeface } from './typeface';

const { resolve } = createRequire(import.meta.url);
const bytesOf = (file: string) => new Uint8Array(readFileSync(resolve(`@fontsource/${file}`))).buffer;
const FILES = ['literata/files/literata-latin-400-normal.woff', 'literata/files/literata-greek-400-normal.woff'];
const book = new Typeface(FILES.map((file) => new FontFile(bytesOf(file))));
const style: TextStyle = { font: 'book', sizePt: 20, bold: false, color: '#1f2a44', align: 'left' };

describe('setting text', () => {
  it('is as wide as another program sets it, kerned', () => {
    // Skia, which also shapes what browsers show.
    GlobalFonts.register(Buffer.from(bytesOf(FILES[0])), 'Book');
    const surface = createCanvas(1, 1).getContext('2d');
    surface.font = '20px Book';
    for (const text of ['Tide', 'Wave AVATAR To', '14:20 m', 'office fjord', 'e\u0301te\u0301']) {
      expect(setText(text, style, null, book).drawing.widthPt, text).toBeCloseTo(surface.measureText(text).width, 0);
    }
  });

  it('breaks lines between words, and a word that is too long where it must', () => {
    const { drawing } = setText('High water is at noon', style, 90, book);
    expect(drawing.heightPt).toBeCloseTo(3 * 20 * LINE_SHARE);
    const right = Math.max(...drawing.letters.map(({ xPt }) => xPt));
    expect(right).toBeLessThan(90);
    expect(setText('Unterwasserlandschaft', style, 60, book).drawing.heightPt).toBeGreaterThan(2 * 20 * LINE_SHARE);
    expect(setText('one\ntwo\n', style, null, book).drawing.heightPt).toBeCloseTo(3 * 20 * LINE_SHARE);
  });

  it('aligns lines', () => {
    const first = (align: TextStyle['align']) =>
      setText('a\nlonger line', { ...style, align }, null, book).drawing.letters[0].xPt;
    const width = setText('a\nlonger line', style, null, book).drawing.widthPt;
    expect(first('left')).toBe(0);
    expect(first('center')).toBeGreaterThan(width / 3);
    expect(first('right')).toBeGreaterThan(first('center'));
  });

  it('takes Greek letters from the file that has them, and says which letters no file has', () => {
    const { drawing, missing } = setText('Δt 潮', style, null, book);
    expect(missing).toEqual(['潮']);
    expect(drawing.letters.length).toBeGreaterThanOrEqual(2);
  });
});

describe('text of other scripts', () => {
  const face = new Typeface(
    [
      ...FILES,
      'noto-sans-hebrew/files/noto-sans-hebrew-hebrew-400-normal.woff',
      'noto-sans-arabic/files/noto-sans-arabic-arabic-400-normal.woff',
      'noto-emoji/files/noto-emoji-emoji-400-normal.woff',
    ].map((file) => new FontFile(bytesOf(file))),
  );
  const set = (text: string) => setLine(text, face);
  const outlines = (text: string) => set(text).glyphs.map(({ outline }) => outline.join());

  it('stands from right to left', () => {
    // Alef, bet, gimel: the first letter is the one farthest right.
    const [alef, bet, gimel] = ['א', 'ב', 'ג'].map((letter) => outlines(letter)[0]);
    expect(outlines('אבג')).toEqual([gimel, bet, alef]);
  });

  it('stands as it is read where both directions meet, numbers as numbers', () => {
    const [alef, bet] = ['א', 'ב'].map((letter) => outlines(letter)[0]);
    const [a, b, one, two] = ['a', 'b', '1', '2'].map((letter) => outlines(letter)[0]);
    const seen = (text: string) => outlines(text).filter((outline) => outline !== '');
    expect(seen('ab אב')).toEqual([a, b, bet, alef]);
    expect(seen('אב 12')).toEqual([one, two, bet, alef]);
    expect(seen('אב ab')).toEqual([a, b, bet, alef]);
    // UAX #9, rules N0 and L4: brackets are read with what is in them, and are mirrored.
    const [opening, closing] = ['(', ')'].map((letter) => outlines(letter)[0]);
    expect(seen('(אב)')).toEqual([opening, bet, alef, closing]);
    expect(seen('אב (ab)')).toEqual([opening, a, b, closing, bet, alef]);
  });

  it('joins the letters of Arabic: one letter looks different at the beginning, within, and at the end', () => {
    const heh = '\u0647';
    expect(new Set([...outlines(heh.repeat(3)), ...outlines(heh)]).size).toBe(4);
  });

  it('sets marks over their letter, which takes no more room', () => {
    expect(set('e\u0301').advance).toBeCloseTo(set('é').advance, 0);
    expect(setText('e\u0301', style, null, face).missing).toEqual([]);
  });

  it('draws emoji, and those that are joined as one', () => {
    expect(setText('⛵ 🧭', style, null, face).missing).toEqual([]);
    const family = '👨\u200d👩\u200d👧';
    expect(outlines(family)).toHaveLength(1);
    // A word that is too long is broken between letters, never within one.
    const narrow = setText(family.repeat(4), style, 30, face);
    expect(narrow.missing).toEqual([]);
    expect(narrow.drawing.letters).toHaveLength(4);
  });

  it('takes line ends of every program, and says nothing of what has no glyph', () => {
    const { drawing, missing } = setText('one\r\ntwo\rthree\nfo\u00adur\u200f', style, null, face);
    expect(missing).toEqual([]);
    expect(drawing.heightPt).toBeCloseTo(4 * 20 * LINE_SHARE);
    expect(drawing.letters).toHaveLength(3 + 3 + 5 + 4);
  });

  it('keeps every glyph, whatever is mixed and wherever lines break', () => {
    const letter = fc.constantFrom(
      'a',
      'Δ',
      'א',
      'ב',
      '\u0647',
      '\u0644',
      '1',
      '2',
      '(',
      ')',
      ' ',
      '⛵',
      'e\u0301',
      '\n',
      '\r\n',
      '\u200f',
      '\u00ad',
    );
    fc.assert(
      fc.property(
        fc.array(letter, { maxLength: 40 }),
        fc.option(fc.integer({ min: 1, max: 400 })),
        (letters, wrapPt) => {
          const { drawing, missing } = setText(letters.join(''), style, wrapPt, face);
          expect(missing).toEqual([]);
          for (const { xPt, yPt } of drawing.letters) expect(Number.isFinite(xPt) && Number.isFinite(yPt)).toBe(true);
          const inked = letters.filter((one) => /[^\s\u200f\u00ad]/.test(one)).length;
          // Letters may be joined into one glyph (lam and alef), or be made of several; none vanishes altogether.
          if (inked > 0) expect(drawing.letters.length).toBeGreaterThan(0);
          expect(drawing.letters.length).toBeLessThanOrEqual(inked * 3);
        },
      ),
      { seed: 19, numRuns: 300 },
    );
  });
});

describe('typesetting formulas', () => {
  it('sets a fraction: its parts above and below its bar', () => {
    const { letters, lines, heightPt } = setFormula('\\frac{a}{b}', 20);
    expect(letters).toHaveLength(2);
    expect(lines).toHaveLength(1);
    const bar = flattened(lines[0].path)[0].filter((_, i) => i % 2 === 1);
    expect(letters[0].yPt).toBeLessThan(Math.min(...bar));
    expect(letters[1].yPt).toBeGreaterThan(Math.max(...bar));
    expect(heightPt).toBeGreaterThan(20);
  });

  it('shares the outlines of letters, and keeps them out of the frame of nothing', () => {
    const { letters } = setFormula('x + x = 2x', 20);
    const xs = letters.filter(({ outline }) => outline.join() === letters[0].outline.join());
    expect(xs).toHaveLength(3);
  });

  it.each([
    '\\sqrt{b^2-4ac}',
    '\\int_0^\\infty e^{-x^2}\\,dx',
    '\\begin{pmatrix}1&2\\\\3&4\\\\5&6\\\\7&8\\\\9&0\\end{pmatrix}',
    '\\overbrace{a+b+c+d+e+f+g}^{n}',
    '\\mathbb{R}\\subset\\mathbb{C}',
    '\\cancel{x}',
    'v = \\text{5 knots}',
  ])('keeps %s within its frame', (tex) => {
    const { letters, lines, widthPt, heightPt } = setFormula(tex, 30);
    const places = [
      ...lines.flatMap(({ path }) => flattened(path)),
      ...letters.flatMap(({ outline, xPt, yPt, sizePt }) =>
        flattened(outline).map((run) => run.map((v, i) => (i % 2 === 0 ? xPt : yPt) + (v * sizePt) / 1000)),
      ),
    ];
    expect(places.length).toBeGreaterThan(1);
    for (const run of places) {
      run.forEach((value, i) => {
        expect(value).toBeGreaterThan(-4);
        expect(value).toBeLessThan((i % 2 === 0 ? widthPt : heightPt) + 4);
      });
    }
  });

  it('says what it does not understand', () => {
    expect(() => setFormula('\\frac{x', 20)).toThrow(/Missing close brace/);
    expect(() => setFormula('\\nonsense', 20)).toThrow(FormulaProblem);
    expect(() => setFormula(' ', 20)).toThrow(FormulaProblem);
    expect(() => setFormula('潮', 20)).toThrow(/cannot be set/);
  });
});

describe("an outline's path", () => {
  it('reads smooth and straight commands as SVG 2 defines them', () => {
    expect(parsedPath('M10 20H30V40T50 60Z')).toEqual([0, 10, 20, 1, 30, 20, 1, 30, 40, 2, 30, 40, 50, 60, 4]);
    expect(parsedPath('M0 0Q1 2 4 4T10-2')).toEqual([0, 0, 0, 2, 1, 2, 4, 4, 2, 7, 6, 10, -2]);
    // Exponents of either sign and letter (SVG 2, section 9.3.9).
    expect(parsedPath('M1e1 2E+1L3e0-4e-1')).toEqual([0, 10, 20, 1, 3, -0.4]);
    expect(() => parsedPath('M0 0A1 1 0 0 0 2 2')).toThrow(SyntaxError);
  });
});

describe('plotting', () => {
  const plot = { x: { from: -4, to: 4 }, y: { from: -2, to: 6 }, grid: true, color: '#1f2a44' };
  const curve = (expression: string) => ({ expression, color: '#c23b1e' });

  it('runs through the values of the function', () => {
    const { lines } = drawPlot({ ...plot, curves: [curve('y = x^2')] }, book);
    const points = flattened(lines.at(-1)!.path)[0];
    // The frame is 14 pt inside the drawing: (2, 4) lies at three quarters of both ranges.
    const [x, y] = [14 + 0.75 * (PLOT_SIZE.widthPt - 28), PLOT_SIZE.heightPt - 14 - 0.75 * (PLOT_SIZE.heightPt - 28)];
    const gap = points.flatMap((px, i) => (i % 2 === 0 ? [Math.hypot(px - x, points[i + 1] - y)] : []));
    expect(Math.min(...gap)).toBeLessThan(0.3);
  });

  it('leaves out what is outside, and breaks at poles and where there is no value', () => {
    const [x, y] = [plot.x, plot.y];
    expect(sampled((v) => v * v, x, y)).toHaveLength(1);
    for (const [, value] of sampled((v) => v ** 3, x, y).flat()) {
      expect(value).toBeGreaterThanOrEqual(-2 - 1e-9);
      expect(value).toBeLessThanOrEqual(6 + 1e-9);
    }
    expect(sampled((v) => 1 / v, x, y)).toHaveLength(2);
    expect(sampled(Math.tan, x, y).length).toBeGreaterThanOrEqual(3);
    const roots = sampled(Math.sqrt, x, y);
    expect(roots).toHaveLength(1);
    expect(roots[0][0][0]).toBeGreaterThanOrEqual(0);
    // A steep line is no pole.
    expect(sampled((v) => 200 * v, x, y)).toHaveLength(1);
  });

  it('labels round values', () => {
    expect(ticksOf({ from: -4, to: 4 })).toEqual([-4, -3, -2, -1, 0, 1, 2, 3, 4]);
    expect(ticksOf({ from: 0, to: 0.35 })).toEqual([0, 0.05, 0.1, 0.15, 0.2, 0.25, 0.3, 0.35]);
    expect(ticksOf({ from: 0, to: 1000 })).toEqual([0, 200, 400, 600, 800, 1000]);
  });

  it('says what it does not understand, and runs nothing but mathematics', () => {
    for (const bad of ['2 +', 'import({})', 'y = q + 1', 'evaluate("1")']) {
      expect(() => drawPlot({ ...plot, curves: [curve(bad)] }, book)).toThrow(PlotProblem);
    }
  });
});
