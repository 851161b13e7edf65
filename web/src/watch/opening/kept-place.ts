import { secondsToSamples } from '@kite-trail/core/trail/clock';

/** How far somebody came in a lesson, on this device alone. */
export interface KeptPlace {
  atSamples: number;
  lengthSamples: number;
  /** When it was last watched, in milliseconds since 1970. */
  seenMs: number;
}

const KEY = 'kite-trail-watched';
const MOST_KEPT = 300;
/** Whoever has seen less, or all but so much, begins at the beginning. */
const EDGE_SAMPLES = secondsToSamples(5);

/** Of every lesson that was watched on this device, by its link. */
export function keptPlaces(): Record<string, KeptPlace> {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '{}') as Record<string, KeptPlace>;
  } catch {
    return {};
  }
}

/** Keeps how far somebody came. A device that keeps nothing forgets it. */
export function keepPlace(token: string, place: KeptPlace): void {
  const all = Object.entries({ ...keptPlaces(), [token]: place });
  all.sort(([, a], [, b]) => b.seenMs - a.seenMs);
  try {
    localStorage.setItem(KEY, JSON.stringify(Object.fromEntries(all.slice(0, MOST_KEPT))));
  } catch {
    // It is full, or keeps nothing for this page.
  }
}

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
