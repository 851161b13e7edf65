import type { Problem, Watch } from '@kite-trail/core/contract/watch';
import { decodePayload, timelineOf } from '@kite-trail/core/formats/payload';
import type { TimedText } from '@kite-trail/core/formats/timed-text';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import type { Programme } from '@kite-trail/core/trail/programme';
import type { ImageLoader } from '../pictures/image-store';
import type { Timeline } from '@kite-trail/core/trail/timeline';

/** What can be had of a link: at once what its sound needs, a little later its pages. */
export interface Watched {
  title: string;
  chapters: Watch['chapters'];
  programme: Programme;
  soundUrl: (take: TakeId) => string | null;
  timeline: Promise<Timeline>;
  /** What is spoken, to be read along; nothing where it was not written down. */
  captions: Promise<TimedText[]>;
  loadImage: ImageLoader;
}

/** Instead of a link's token: a finished explanation that ships with the product. */
const EXAMPLE = 'example';

/** Fetches what a link plays. @throws Error with a message for the student */
export async function loadWatched(token: string): Promise<Watched> {
  const isExample = token === EXAMPLE;
  const about = (await (await fetchFrom(isExample ? '/example/about.json' : `/api/watch/${token}`)).json()) as Watch;
  // All of one publication: when the teacher shares again, whoever watches goes on with what they began.
  const address = isExample ? '/example' : `/api/watch/${token}/publications/${about.publication}`;
  const payload = fetchFrom(isExample ? `${address}/payload.bin` : `${address}/payload`);
  payload.catch(() => {});
  return {
    title: about.title,
    chapters: about.chapters,
    programme: [{ kind: 'play', take: 'published' as TakeId, fromSamples: 0, toSamples: about.lengthSamples, pace: 1 }],
    loadImage: async (asset, pageIndex) => {
      const file = `${address}/assets/${asset}`;
      const response = await fetchFrom(pageIndex === null ? file : `${file}/pages/${pageIndex}`);
      return createImageBitmap(await response.blob());
    },
    soundUrl: () => (about.hasSound ? `${address}/${isExample ? 'sound.ogg' : 'sound'}` : null),
    timeline: payload.then(async (response) => timelineOf(decodePayload(new Uint8Array(await response.arrayBuffer())))),
    captions: about.hasCaptions ? loadCaptions(address) : Promise.resolve([]),
  };
}

async function loadCaptions(address: string): Promise<TimedText[]> {
  const [response, { readTimedText }] = await Promise.all([
    fetchFrom(`${address}/captions`),
    import('@kite-trail/core/formats/timed-text'),
  ]);
  return readTimedText(await response.text());
}

async function fetchFrom(path: string): Promise<Response> {
  const response = await fetch(path).catch(() => {
    throw new Error('There is no network just now. Try again in a moment.');
  });
  if (response.ok) return response;
  const problem = (await response.json().catch(() => null)) as Problem | null;
  throw new Error(problem?.message ?? 'This cannot be played just now. Try again in a moment.');
}
