import { samplesToSeconds } from '@kite-trail/core/trail/clock';

/** A length as m:ss, or h:mm:ss from an hour on. */
export function clockText(samples: number): string {
  const seconds = Math.floor(samplesToSeconds(Math.max(0, samples)));
  const two = (value: number) => String(value).padStart(2, '0');
  const minutes = Math.floor(seconds / 60);
  if (minutes < 60) return `${minutes}:${two(seconds % 60)}`;
  return `${Math.floor(minutes / 60)}:${two(minutes % 60)}:${two(seconds % 60)}`;
}

/** The same in words, for those who listen to the page. */
export function spokenTime(samples: number): string {
  const seconds = Math.floor(samplesToSeconds(Math.max(0, samples)));
  const minutes = Math.floor(seconds / 60);
  return minutes === 0 ? `${seconds} seconds` : `${minutes} min ${seconds % 60} s`;
}

/** A day as the reader's country writes it. @param at ISO 8601 */
export const dayText = (at: string): string => new Date(at).toLocaleDateString(undefined, { dateStyle: 'medium' });

/** A moment as the reader's country writes it. @param at ISO 8601, or milliseconds since 1970 */
export const momentText = (at: string | number): string =>
  new Date(at).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' });
