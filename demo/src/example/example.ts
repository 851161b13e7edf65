import type { Watch } from '@kite-trail/core/contract/watch';
import { encodePayload } from '@kite-trail/core/formats/payload';
import { sceneOf } from '@kite-trail/core/lesson/scene';
import { recordedTake } from '../record';
import { readNarration } from '../narration/files';
import { loudnessOf } from '../narration/loudness';
import { compass } from '../teaching/compass';
import { preparedPages } from '../teaching/script';

/** The files of a finished explanation, as a link plays one: for a school that has no lessons yet. */
export async function exampleFiles(): Promise<Record<'about.json' | 'payload.bin' | 'sound.ogg', Uint8Array>> {
  const { marks, sound, lengthSamples } = recordedTake(compass);
  const { startsSamples } = readNarration(compass.name);
  const about: Watch = {
    publication: 'example',
    title: compass.title,
    lengthSamples,
    pageCount: compass.pageCount,
    hasSound: true,
    hasCaptions: false,
    mayDownload: false,
    loudness: Buffer.from(await loudnessOf(sound, lengthSamples)).toString('base64'),
    prompts: [],
    mayAsk: false,
    questions: [],
    isCounted: false,
    chapters: (compass.tidied?.chapters ?? []).map(({ beat, title }) => ({ startSamples: startsSamples[beat], title })),
  };
  return {
    'about.json': new TextEncoder().encode(`${JSON.stringify(about, null, 2)}\n`),
    'payload.bin': encodePayload({ base: sceneOf(preparedPages(compass)), trail: { lengthSamples, marks } }),
    'sound.ogg': sound,
  };
}
