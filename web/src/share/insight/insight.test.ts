import type { Insight } from '@kite-trail/core/contract/visit';
import type { ClassId } from '@kite-trail/core/lesson/ids';
import { describe, expect, it } from 'vitest';
import { countedOf, everyDay, mostOften, reached, tableOf } from './insight';

const sums = (heard: number[], furthest: number[]) => ({
  ...{ heard, furthest, stopped: furthest },
  ...{ wentBack: [0, 1], slowed: [0, 0] },
});
const insight: Insight = {
  lengthSamples: 4 * 48_000,
  isCounted: true,
  isCounting: true,
  links: [
    {
      ...{ token: 'a', name: 'Port watch', schoolClass: 'crew' as ClassId, visits: 3, sums: sums([4, 2], [1, 2]) },
      days: [
        { day: '2026-11-26', visits: 1, heardSeconds: 4 },
        { day: '2026-11-29', visits: 2, heardSeconds: 8 },
      ],
    },
    {
      ...{ token: 'b', name: '', schoolClass: null, visits: 1, sums: sums([1, 1], [0, 1]) },
      days: [{ day: '2026-11-26', visits: 1, heardSeconds: 2 }],
    },
    { ...{ token: 'c', name: 'Nobody', schoolClass: null, visits: 0, sums: sums([0, 0], [0, 0]) }, days: [] },
  ],
};

describe('what was counted', () => {
  it('is added up over all links, those of a class, or is that of one', () => {
    expect(countedOf(insight, { kind: 'all' })).toMatchObject({
      visits: 4,
      sums: { heard: [5, 3], wentBack: [0, 3], furthest: [1, 3] },
      days: [
        { day: '2026-11-26', visits: 2, heardSeconds: 6 },
        { day: '2026-11-29', visits: 2, heardSeconds: 8 },
      ],
    });
    expect(countedOf(insight, { kind: 'class', id: 'crew' as ClassId }).visits).toBe(3);
    expect(countedOf(insight, { kind: 'link', token: 'b' }).sums.heard).toEqual([1, 1]);
    expect(countedOf({ ...insight, links: [] }, { kind: 'all' })).toMatchObject({ visits: 0, days: [] });
  });

  it('has days without visits, and of many days the last', () => {
    const { days } = countedOf(insight, { kind: 'all' });
    expect(everyDay(days).map(({ day, visits }) => [day, visits])).toEqual([
      ['2026-11-26', 2],
      ['2026-11-27', 0],
      ['2026-11-28', 0],
      ['2026-11-29', 2],
    ]);
    expect(everyDay(days, 2).map(({ day }) => day)).toEqual(['2026-11-28', '2026-11-29']);
    expect(everyDay([])).toEqual([]);
  });

  it('tells how many came how far, and what happened most', () => {
    expect(reached(countedOf(insight, { kind: 'all' }).sums)).toEqual([4, 3]);
    expect([mostOften([0, 2, 5, 5]), mostOften([0, 0]), mostOften([])]).toEqual([2, null, null]);
  });

  it('is a table with a row for each step of each link that was watched', () => {
    const rows = tableOf(insight, ({ name }) => name || 'The lesson');
    expect(rows).toHaveLength(4);
    expect(rows[1]).toEqual({
      ...{ link: 'Port watch', 'from (s)': 2, 'to (s)': 4, visits: 3, reached: 2, heard: 2 },
      ...{ 'went back to it': 1, 'heard it slower': 0, 'stopped there': 2 },
    });
    expect(rows[3].link).toBe('The lesson');
  });
});
