import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { keptByLink } from './kept-by-link';

/** How far somebody came in a lesson, on this device alone. */
export interface KeptPlace {
  atSamples: number;
  lengthSamples: number;
  /** When it was last watched, in milliseconds since 1970. */
  seenMs: number;
}

/** Whoever has seen less, or all but so much, begins at the beginning. */
const EDGE_SAMPLES = secondsToSamples(5);

/** Of every lesson that was watched on this device. */
const places = keptByLink<KeptPlace>('kite-trail-watched', 300);
export const keptPlaces = places.all;
export const keepPlace = places.keep;

/** Where somebody goes on, or 0. */
export function placeToGoOn(token: string, lengthSamples: number): number {
  const at = keptPlaces()[token]?.atSamples ?? 0;
  return at > EDGE_SAMPLES && at < lengthSamples - EDGE_SAMPLES ? at : 0;
}

/** How far somebody came, 0 to 1; all of it where little is missing. */
export function shareSeen({ atSamples, lengthSamples }: KeptPlace): number {
  return atSamples > lengthSamples - EDGE_SAMPLES ? 1 : atSamples / Math.max(1, lengthSamples);
}

/** The moment an address names, as in `#t=83` or `#t=1:23` (W3C Media Fragments URI 1.0, section 4.2.1), or `null`. */
export function momentNamed(hash: string): number | null {
  const named = /^#t=(?:npt:)?(?:(?:(\d+):)?(\d{1,2}):)?(\d+(?:\.\d+)?)s?(?:,|$)/.exec(hash);
  if (!named) return null;
  const [, hours = '0', minutes = '0', seconds] = named;
  return secondsToSamples(Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds));
}
