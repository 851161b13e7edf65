import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { describe, expect, it } from 'vitest';
import { seeded } from '../random/seeded';
import { editsBetween, written, WRITTEN } from '../testing/written';
import { HANDS, lettersOfFont, plainTemplates, templatesOfFont, type Hand } from './alphabet';
import { cloudDistance, cloudOf, type Polyline } from './point-cloud';
import { read, textOf } from './reading';
import { Recogniser } from './recogniser';

const require = createRequire(import.meta.url);
const fonts = new Map(
  HANDS.map((hand) => [hand, readFileSync(require.resolve(`hersheytext/svg_fonts/${hand}.svg`), 'utf8')]),
);
/** Knows every hand but one. */
const without = (hand: Hand) =>
  new Recogniser([
    ...HANDS.filter((one) => one !== hand).flatMap((one) => templatesOfFont(fonts.get(one)!)),
    ...plainTemplates(),
  ]);

const stroke = fc
  .array(fc.integer({ min: -100, max: 100 }), { minLength: 8, maxLength: 24 })
  .map((line) => line.slice(0, line.length - (line.length % 2)));
const reversed = (line: Polyline): Polyline =>
  Array.from({ length: line.length / 2 }, (_, i) => line.slice(line.length - 2 * i - 2, line.length - 2 * i)).flat();

describe('a cloud of points', () => {
  it('is the same whatever the order, direction, place and size of the strokes ($P, ICMI 2012)', () => {
    fc.assert(
      fc.property(fc.array(stroke, { minLength: 1, maxLength: 3 }), (strokes) => {
        fc.pre(strokes.every((line) => Math.hypot(line[0] - line.at(-2)!, line[1] - line.at(-1)!) > 1));
        const cloud = cloudOf(strokes);
        const moved = strokes.map((line) => line.map((value, i) => value * 3 + (i % 2 === 0 ? 500 : -70)));
        // Rounding may put a point on the other side of a corner.
        expect(cloudDistance(cloud, cloudOf(moved))).toBeLessThan(0.03);
        // Points may fall elsewhere on the line, but not far.
        expect(cloudDistance(cloud, cloudOf(strokes.map(reversed).reverse()))).toBeLessThan(0.2);
        expect(cloudDistance(cloud, cloud)).toBeCloseTo(0, 6);
      }),
    );
  });

  it('tells what differs by the way lines run alone', () => {
    const [upright, lying, slash] = [
      [0, 0, 0, 10],
      [0, 0, 10, 0],
      [0, 10, 6, 0],
    ].map((line) => cloudOf([line]));
    expect(cloudDistance(upright, lying)).toBeGreaterThan(0.2);
    expect(cloudDistance(upright, slash)).toBeGreaterThan(0.1);
    expect(cloudDistance(upright, lying, 0.05)).toBe(0.05);
  });

  it('is made of a dot, too', () => {
    expect(cloudDistance(cloudOf([[3, 4]]), cloudOf([[80, 9]]))).toBeCloseTo(0, 6);
  });
});

describe('the recogniser, on per-stroke character data', () => {
  /**
   * Hanzi Writer Data (npm `hanzi-writer-data`, from Make Me a Hanzi; ARPHIC Public License): the middle lines of the
   * strokes of Chinese characters. The first 120 of the block of CJK unified ideographs that have 3 to 12 strokes are
   * learnt as they are, and read as drawn by an unsteady hand, strokes in another order and direction.
   */
  it('knows characters of many strokes drawn unsteadily, in any order and direction', () => {
    const known: { letter: string; strokes: number[][] }[] = [];
    for (let code = 0x4e00; known.length < 120; code++) {
      const letter = String.fromCharCode(code);
      let medians: [number, number][][];
      try {
        ({ medians } = require(`hanzi-writer-data/${letter}.json`) as { medians: [number, number][][] });
      } catch {
        continue;
      }
      if (medians.length >= 3 && medians.length <= 12)
        known.push({ letter, strokes: medians.map((line) => line.flat()) });
    }
    const recogniser = new Recogniser(known.map(({ letter, strokes }) => ({ letter, cloud: cloudOf(strokes) })));
    const random = seeded(11);
    const about = () => random() + random() + random() + random() - 2;
    let right = 0;
    for (const { letter, strokes } of known) {
      const [wide, lean] = [1 + about() * 0.15, about() * 0.12];
      const drawn = strokes.map((line) => {
        const [asideX, asideY] = [about() * 35, about() * 35];
        return line.map((value, i) =>
          i % 2 === 0 ? value * wide + lean * line[i + 1] + asideX + about() * 15 : value + asideY + about() * 15,
        );
      });
      const order = drawn.map((line) => (random() < 0.5 ? reversed(line) : line)).sort(() => random() - 0.5);
      if (recogniser.choices(order)[0].letter === letter) right++;
    }
    const percent = (100 * right) / known.length;
    console.info(`per-stroke character data: ${right} of ${known.length} right (${percent.toFixed(1)} %)`);
    expect(percent).toBeGreaterThan(95);
  });
});

describe('handwriting', () => {
  it('is read in hands that are not among those learnt', () => {
    const random = seeded(7);
    const figures: Record<string, { edits: number; letters: number }> = {};
    for (const hand of ['EMSNixish', 'EMSReadability', 'EMSTech', 'HersheySans1', 'EMSElfin'] as const) {
      const recogniser = without(hand);
      for (const [sort, texts] of Object.entries(WRITTEN)) {
        const figure = (figures[sort] ??= { edits: 0, letters: 0 });
        for (const text of texts) {
          figure.edits += editsBetween(text, textOf(read(written(text, fonts.get(hand)!, random), recogniser)));
          figure.letters += text.length;
        }
      }
    }
    const percent = Object.fromEntries(
      Object.entries(figures).map(([sort, { edits, letters }]) => [sort, 100 * (1 - edits / letters)]),
    );
    console.info('letters read right, %:', percent);
    expect(percent.numbers).toBeGreaterThan(90);
    expect(percent.capitals).toBeGreaterThan(88);
    expect(percent.words).toBeGreaterThan(78);
  });

  const sans = new Recogniser(templatesOfFont(fonts.get('HersheySans1')!));
  const line = (text: string, y: number) =>
    written(text, fonts.get('HersheySans1')!, () => 0.5).map((one) =>
      one.map((value, i) => (i % 2 === 1 ? value + y : value)),
    );

  it('knows an i and a j by their dots, tapped or drawn', () => {
    const all = new Recogniser([...HANDS.flatMap((hand) => templatesOfFont(fonts.get(hand)!)), ...plainTemplates()]);
    const [i, j] = [
      [0, 40, 0, 100],
      [20, 40, 20, 110, 10, 130, 0, 120],
    ];
    for (const dot of [
      [0, 6],
      [0, 6, 0, 6],
      [-1, 5, 1, 7],
    ]) {
      expect(all.choices([i, dot])[0].letter).toBe('i');
      expect(all.choices([j, dot.map((value, n) => (n % 2 === 0 ? value + 20 : value))])[0].letter).toBe('j');
    }
    expect(['l', 'I', '1']).toContain(all.choices([[0, 0, 0, 100]])[0].letter);
    // Most words have an i or a j: with dots that are tapped they are read as they are with dots that are drawn.
    const tapped = (text: string) =>
      written(text, fonts.get('EMSReadability')!, () => 0.5).map((one) => {
        const [xs, ys] = [0, 1].map((side) => one.filter((_, n) => n % 2 === side));
        const size = Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
        return size < 120 ? one.slice(0, 2) : one;
      });
    expect(textOf(read(tapped('tide in mist'), all))).toBe('tide in mist');
  });

  it('keeps its lines and words apart, and says which strokes made a letter', () => {
    const [first, second] = [line('HIGH TIDE', 0), line('12.5', 1500)];
    // Whatever was written first.
    const found = read([...second, ...first], sans);
    expect(textOf(found)).toBe('HIGH TIDE\n12.5');
    expect(found[0][0].strokes.every((n) => n >= second.length)).toBe(true);
    expect(found.flatMap((letters) => letters.flatMap(({ strokes }) => strokes)).sort((a, b) => a - b)).toEqual(
      [...second, ...first].map((_, i) => i),
    );
    expect(found[0].map(({ beginsWord }) => beginsWord)).toEqual([
      true,
      false,
      false,
      false,
      true,
      false,
      false,
      false,
    ]);
  });

  it('is taught by one example', () => {
    const sign = [
      [0, 0, 10, 10, 20, 0, 10, -10, 0, 0],
      [10, -20, 10, 20],
    ];
    const taught = new Recogniser([
      ...templatesOfFont(fonts.get('HersheySans1')!),
      { letter: 'Q', cloud: cloudOf(sign) },
    ]);
    expect(sans.choices(sign)[0].letter).not.toBe('Q');
    expect(taught.choices(sign.map((one) => one.map((value) => value * 4 + 7)))[0].letter).toBe('Q');
  });

  it('has choices for every letter, the likeliest first, each once', () => {
    for (const [, strokes] of lettersOfFont(fonts.get('EMSTech')!)) {
      const choices = sans.choices(strokes);
      expect(choices.length).toBeGreaterThan(5);
      expect(choices.map(({ distance }) => distance)).toEqual(
        choices.map(({ distance }) => distance).sort((a, b) => a - b),
      );
      expect(new Set(choices.map(({ letter }) => letter)).size).toBe(choices.length);
    }
  });
});
