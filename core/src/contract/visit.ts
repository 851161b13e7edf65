import { z } from 'zod';
import { MOST_STEPS } from '../trail/visits';
import { classId, samples } from './primitives';

const count = z.int().min(0);
/** How often something can happen in a step between two reports. */
const perStep = z.array(count.max(100)).max(MOST_STEPS);

/** What has happened since the last report of a visit. */
export const visitReport = z.object({
  /** Random, made when the page is opened, and gone with it. */
  visit: z.string().regex(/^[A-Za-z0-9_-]{21}$/, 'This is not a visit.'),
  /** 0, 1, 2, …: a report that comes twice is counted once. */
  n: count.max(100_000),
  heard: perStep,
  wentBack: perStep,
  slowed: perStep,
  heardSeconds: z.number().min(0).max(3600),
  /** At which step whoever watches is now. */
  at: count.max(MOST_STEPS - 1),
});
export type VisitReport = z.output<typeof visitReport>;

const sums = z.object({
  heard: z.array(count),
  wentBack: z.array(count),
  slowed: z.array(count),
  stopped: z.array(count),
  furthest: z.array(count),
});

/** How a lesson was watched, by each of its links, counted along the lesson as it is now. */
export const insight = z.object({
  lengthSamples: samples,
  /** The lesson is counted; the school counts. */
  isCounted: z.boolean(),
  isCounting: z.boolean(),
  links: z.array(
    z.object({
      token: z.string(),
      name: z.string(),
      schoolClass: classId.nullable(),
      visits: count,
      sums,
      days: z.array(z.object({ day: z.iso.date(), visits: count, heardSeconds: count })),
    }),
  ),
});
export type Insight = z.output<typeof insight>;

export const lessonCounting = z.object({ isCounted: z.boolean() });
export const schoolCounting = z.object({ isCounting: z.boolean() });
