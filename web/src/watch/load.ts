import type { Problem, Watch } from '@kite-trail/core/contract/watch';
import { decodePayload, timelineOf } from '@kite-trail/core/formats/payload';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import type { Programme } from '@kite-trail/core/trail/programme';
import type { Timeline } from '@kite-trail/core/trail/timeline';

export interface Watched {
  title: string;
  timeline: Timeline;
  programme: Programme;
  soundUrl: (take: TakeId) => string | null;
}

/** Fetches what a link plays. @throws Error with a message for the student */
export async function loadWatched(token: string): Promise<Watched> {
  // Asked for together, so that a phone waits for one round trip, not two.
  const [facts, payload] = await Promise.all([
    fetchFrom(`/api/watch/${token}`),
    fetchFrom(`/api/watch/${token}/payload`),
  ]);
  const { title, hasSound } = (await facts.json()) as Watch;
  const timeline = timelineOf(decodePayload(new Uint8Array(await payload.arrayBuffer())));
  const whole = 'published' as TakeId;
  return {
    title,
    timeline,
    programme: [{ take: whole, fromSamples: 0, toSamples: timeline.lengthSamples, pace: 1 }],
    soundUrl: () => (hasSound ? `/api/watch/${token}/sound` : null),
  };
}

async function fetchFrom(path: string): Promise<Response> {
  const response = await fetch(path).catch(() => {
    throw new Error('There is no network just now. Try again in a moment.');
  });
  if (response.ok) return response;
  const problem = (await response.json().catch(() => null)) as Problem | null;
  throw new Error(problem?.message ?? 'This cannot be played just now. Try again in a moment.');
}
