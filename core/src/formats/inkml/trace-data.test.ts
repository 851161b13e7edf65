import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FormatError } from '../bytes';
import { readTraceData, type Channel } from './trace-data';

const regular = (name: string): Channel => ({ name, isIntermittent: false });
const XY = [regular('X'), regular('Y')];
const pointsOf = (text: string, channels = XY) => {
  const rows = readTraceData(text, channels).map((row) => [...row]);
  return rows[0].map((_, n) => rows.map((row) => row[n]));
};

describe('the data of a trace', () => {
  it('is read as the Recommendation shows it, with differences and differences of these', () => {
    // W3C InkML, section 3.2.1, its example of prefixes: from memory; its values follow from the differences by arithmetic.
    const text = `1125 18432,'23'43,"7"-8,3-5,7 -3,6 2,6 8,3 6,2 4,*5,3 6,3 6`;
    expect(pointsOf(text)).toEqual([
      [1125, 18432],
      [1148, 18475],
      [1178, 18510],
      [1211, 18540],
      [1251, 18567],
      [1297, 18596],
      [1349, 18633],
      [1404, 18676],
      [1461, 18723],
      [1520, 18775],
      [1582, 18833],
      [1647, 18897],
    ]);
  });

  it('goes on as it is meant where nothing is told, and is explicit again when it says so', () => {
    expect(pointsOf("10 0, '2 * , * *, !5 7, * 8")).toEqual([
      [10, 0],
      [12, 0],
      [14, 0],
      [5, 7],
      [5, 8],
    ]);
  });

  it('is of numbers of all kinds, of truths, and of values that are told now and then', () => {
    const channels = [...XY, regular('S'), { name: 'F', isIntermittent: true }];
    const [first, second] = pointsOf('-.5 #1F T 1e2, - 3. 2.25 F', channels);
    expect(first).toEqual([-0.5, 31, 1, 100]);
    expect(second).toEqual([-3, 2.25, 0, NaN]);
    expect(pointsOf('1 2, ? 4, 5 6,')).toEqual([
      [1, 2],
      [NaN, 4],
      [5, 6],
    ]);
  });

  it.each(['1', '1 2, 3', '1 2 3', '1 2, x 3', '1 2,, 3 4', "1 2, ' 3", '1 2; 3 4'])(
    'that is none (%s) is refused, with the point that cannot be read',
    (text) => {
      expect(() => readTraceData(text, XY)).toThrow(FormatError);
      expect(() => readTraceData(text, XY)).toThrow(/Point \d of a trace/);
    },
  );

  it('reads what is written in any of the three ways as the same', () => {
    const whole = fc.integer({ min: -10_000, max: 10_000 });
    fc.assert(
      fc.property(fc.array(fc.tuple(whole, whole, fc.constantFrom(0, 1, 2)), { minLength: 1 }), (points) => {
        let before = [0, 0];
        let velocity = [0, 0];
        const written = points.map(([x, y, order], n) => {
          const now = [x - before[0], y - before[1]];
          const bent = [now[0] - velocity[0], now[1] - velocity[1]];
          before = [x, y];
          velocity = n === 0 ? [0, 0] : now;
          if (n === 0 || order === 0) return `!${x} !${y}`;
          return order === 1 ? `'${now[0]}'${now[1]}` : `"${bent[0]}"${bent[1]}`;
        });
        expect(pointsOf(written.join(','))).toEqual(points.map(([x, y]) => [x, y]));
      }),
    );
  });

  it('of any text is read or refused, and nothing else', () => {
    const signs = fc.constantFrom(...`0123456789.,'"!*?TF#abcdefE+- \n`);
    fc.assert(
      fc.property(fc.string({ unit: signs, maxLength: 60 }), (text) => {
        try {
          const rows = readTraceData(text, XY);
          expect(rows).toHaveLength(2);
        } catch (error) {
          expect(error).toBeInstanceOf(FormatError);
        }
      }),
    );
  });
});
