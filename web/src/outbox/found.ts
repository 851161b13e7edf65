import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import { takesIn } from '@kite-trail/core/trail/programme';
import type { Entry } from './entry';

/** Tells of a recording that a window which is gone had left, once the school has it. */
export function tellFound({ head }: Entry, { takes, edition }: LessonDocument): string | null {
  if (head.kind !== 'end') return null;
  const seconds = Math.round(samplesToSeconds(takes.find(({ id }) => id === head.take)?.lengthSamples ?? 0));
  const what = head.recover ? 'had broken off here' : 'was still on its way to the server';
  const plays = !takesIn(edition.programme).has(head.take)
    ? 'waits in the list of takes, for the trail was edited meanwhile'
    : head.plan.kind === 'carry-on'
      ? 'plays at the end of the trail'
      : 'plays in its place in the trail';
  return `A recording of ${seconds} seconds ${what}. It is saved, and ${plays}.`;
}
