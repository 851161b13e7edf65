import { samplesToSeconds } from '@kite-trail/core/trail/clock';

/** How long something plays, for whoever reads of it elsewhere: in whole minutes. */
export function minutesText(samples: number): string {
  const minutes = Math.max(1, Math.round(samplesToSeconds(samples) / 60));
  return minutes === 1 ? 'a minute' : `${minutes} minutes`;
}
