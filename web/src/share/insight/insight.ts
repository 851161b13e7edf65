import type { Insight } from '@kite-trail/core/contract/visit';
import type { ClassId } from '@kite-trail/core/lesson/ids';
import { addedSums, noVisits, stepCount, SUMS, type VisitSums } from '@kite-trail/core/trail/visits';

/** Which visits are looked at: all, those by the links of one class, or by one link. */
export type Whose = { kind: 'all' } | { kind: 'class'; id: ClassId } | { kind: 'link'; token: string };

type CountedLink = Insight['links'][number];

export interface CountedDay {
  day: string;
  visits: number;
  heardSeconds: number;
}

/** What was counted, of those visits that are looked at. */
export interface Counted {
  visits: number;
  sums: VisitSums;
  days: CountedDay[];
}

const isOf = (whose: Whose, { token, schoolClass }: CountedLink): boolean =>
  whose.kind === 'all' || (whose.kind === 'class' ? schoolClass === whose.id : token === whose.token);

/** Adds up what was counted by the links that are looked at. */
export function countedOf({ lengthSamples, links }: Insight, whose: Whose): Counted {
  const own = links.filter((link) => isOf(whose, link));
  const days = new Map<string, CountedDay>();
  for (const { day, visits, heardSeconds } of own.flatMap((link) => link.days)) {
    const before = days.get(day) ?? { day, visits: 0, heardSeconds: 0 };
    days.set(day, { day, visits: before.visits + visits, heardSeconds: before.heardSeconds + heardSeconds });
  }
  return {
    visits: own.reduce((sum, { visits }) => sum + visits, 0),
    sums: own.map(({ sums }) => sums).reduce(addedSums, noVisits(lengthSamples)),
    days: [...days.values()].sort((a, b) => a.day.localeCompare(b.day)),
  };
}

const DAY_MS = 24 * 3600 * 1000;

/** Days in which nobody watched are days, too; of many, the last. */
export function everyDay(days: readonly CountedDay[], most = 90): CountedDay[] {
  if (days.length === 0) return [];
  const counted = new Map(days.map((one) => [one.day, one]));
  const lastMs = Date.parse(days[days.length - 1].day);
  const firstMs = Math.max(Date.parse(days[0].day), lastMs - (most - 1) * DAY_MS);
  return Array.from({ length: Math.round((lastMs - firstMs) / DAY_MS) + 1 }, (_, n) => {
    const day = new Date(firstMs + n * DAY_MS).toISOString().slice(0, 10);
    return counted.get(day) ?? { day, visits: 0, heardSeconds: 0 };
  });
}

/** How many visits came at least to each step. */
export function reached({ furthest }: VisitSums): number[] {
  const counts = [...furthest];
  for (let step = counts.length - 2; step >= 0; step--) counts[step] += counts[step + 1];
  return counts;
}

/** Where each step begins and ends, in samples. */
export const stretchOf = (lengthSamples: number, step: number) => {
  const steps = stepCount(lengthSamples);
  return { fromSamples: (lengthSamples * step) / steps, toSamples: (lengthSamples * (step + 1)) / steps };
};

/** The step with most of something that deserves to be told; `null` where it never happened. */
export function mostOften(counts: readonly number[]): number | null {
  const most = Math.max(0, ...counts);
  return most === 0 ? null : counts.indexOf(most);
}

/** A table of what was counted: a row for each link and step. */
export function tableOf(
  { lengthSamples, links }: Insight,
  nameOf: (link: CountedLink) => string,
): Record<string, string | number>[] {
  const seconds = (samples: number) => Math.round(samples / 4800) / 10;
  return links
    .filter(({ visits }) => visits > 0)
    .flatMap((link) => {
      const came = reached(link.sums);
      return link.sums.heard.map((_, step) => {
        const { fromSamples, toSamples } = stretchOf(lengthSamples, step);
        const [heard, wentBack, slowed, stopped] = SUMS.map((key) => link.sums[key][step]);
        return {
          link: nameOf(link),
          'from (s)': seconds(fromSamples),
          'to (s)': seconds(toSamples),
          ...{ visits: link.visits, reached: came[step], heard },
          ...{ 'went back to it': wentBack, 'heard it slower': slowed, 'stopped there': stopped },
        };
      });
    });
}
