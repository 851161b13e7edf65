import type { Watch } from '@kite-trail/core/contract/watch';
import type { TimedText } from '@kite-trail/core/formats/timed-text';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import type { Programme } from '@kite-trail/core/trail/programme';
import type { ImageLoader } from '../../pictures/image-store';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { ask, Refused } from './ask';
import { carried, carriedFile } from './carried';
import { forgetPass, passFor } from './passcode';

/** What can be had of a link: at once what its sound needs, a little later its pages. */
export interface Watched {
  about: Watch;
  programme: Programme;
  soundUrl: (take: TakeId) => string | null;
  /** The page itself has its sound loaded from the beginning, but where it asks for a passcode. */
  begunSound: HTMLAudioElement | null;
  timeline: Promise<Timeline>;
  /** What is spoken, to be read along; nothing where it was not written down. */
  captions: Promise<TimedText[]>;
  captionsUrl: string;
  loadImage: ImageLoader;
  /** Where a picture, or a PDF's page, is. */
  fileUrl: (asset: string, pageIndex: number | null) => string;
}

/** The link asks for its passcode. */
export class NeedsPasscode extends Error {
  override readonly name = 'NeedsPasscode';
}

/** Instead of a link's token: a finished explanation that ships with the product. */
const EXAMPLE = 'example';

/** Whether a school hears how something is watched, and is asked. */
export const isOfSchool = (token: string): boolean => token !== EXAMPLE && carried() === null;

/** Fetches what a link plays. @throws NeedsPasscode, or Error with a message for the student */
export async function loadWatched(token: string): Promise<Watched> {
  const isExample = token === EXAMPLE;
  const inPage = carried();
  const pass = inPage ? '' : passFor(token);
  const about =
    inPage?.about ??
    saidInPage() ??
    ((await (await fetchFrom(isExample ? '/example/about.json' : `/api/watch/${token}${pass}`)).json()) as Watch);
  // All of one publication: when the teacher shares again, whoever watches goes on with what they began.
  const published = isExample ? '/example' : `/api/watch/${token}/publications/${about.publication}`;
  const address = inPage ? '' : published;
  const payload = fetchFrom(isExample ? `${address}/payload.bin` : `${address}/payload${pass}`);
  payload.catch(() => {});
  const fileUrl = (asset: string, pageIndex: number | null) => {
    const file = `${address}/assets/${asset}`;
    return (pageIndex === null ? file : `${file}/pages/${pageIndex}`) + pass;
  };
  const begunSound = document.querySelector('audio');
  const captionsUrl = `${address}/captions${pass}`;
  return {
    about,
    programme: [{ kind: 'play', take: 'published' as TakeId, fromSamples: 0, toSamples: about.lengthSamples, pace: 1 }],
    loadImage: async (asset, pageIndex) => createImageBitmap(await (await fetchFrom(fileUrl(asset, pageIndex))).blob()),
    soundUrl: () => {
      if (!about.hasSound) return null;
      return begunSound && inPage ? begunSound.src : `${address}/${isExample ? 'sound.ogg' : `sound${pass}`}`;
    },
    begunSound,
    timeline: timelineIn(payload),
    captions: about.hasCaptions ? loadCaptions(captionsUrl) : Promise.resolve([]),
    captionsUrl,
    fileUrl,
  };

  async function fetchFrom(path: string): Promise<Response> {
    if (inPage) return carriedFile(inPage, path);
    try {
      return await ask(path);
    } catch (error) {
      if (!(error instanceof Refused) || error.code !== 'passcode') throw error;
      forgetPass(token);
      throw new NeedsPasscode(error.message);
    }
  }

  async function loadCaptions(from: string): Promise<TimedText[]> {
    const [response, { readTimedText }] = await Promise.all([
      fetchFrom(from),
      import('@kite-trail/core/formats/timed-text'),
    ]);
    return readTimedText(await response.text());
  }
}

/** What reads and paints pages comes while the sound does: whoever watches may begin to listen. */
async function timelineIn(payload: Promise<Response>): Promise<Timeline> {
  const reading = import('@kite-trail/core/formats/payload');
  reading.catch(() => {});
  const bytes = new Uint8Array(await (await payload).arrayBuffer());
  const { decodePayload, timelineOf } = await reading;
  return timelineOf(decodePayload(bytes));
}

/** What the page itself says of what it plays; whoever tries again asks anew. */
function saidInPage(): Watch | null {
  const said = document.getElementById('about');
  said?.remove();
  return said ? (JSON.parse(said.textContent!) as Watch) : null;
}
