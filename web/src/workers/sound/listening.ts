import { ProfileGatherer, type HeardVoice } from '@kite-trail/core/sound/profile';
import type { Stretch } from '@kite-trail/core/trail/edit';
import { decodeSound, openSound } from './take-sound-reader';

/** Listens to a part of a sound, from the beginning of a minute. @throws where it is damaged */
export async function listenTo(url: string, { fromSamples, toSamples }: Stretch): Promise<HeardVoice> {
  const gatherer = new ProfileGatherer(fromSamples);
  const track = await openSound(url);
  if (!track) return gatherer.finish();
  const begin = gatherer.beginSamples;
  for await (const { atSamples, samples } of decodeSound(track, begin)) {
    if (atSamples >= toSamples) break;
    gatherer.add(samples.subarray(Math.max(0, begin - atSamples), toSamples - atSamples));
  }
  return gatherer.finish();
}
