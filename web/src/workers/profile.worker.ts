import { EnergyGatherer } from '@kite-trail/core/sound/loudness';
import type { VoiceProfile } from '@kite-trail/core/sound/mastering';
import { NoiseGatherer } from '@kite-trail/core/sound/noise';
import { PeakGatherer } from '@kite-trail/core/sound/peaks';
import { speechIn } from '@kite-trail/core/sound/speech';
import type { Stretch } from '@kite-trail/core/trail/edit';
import { decodeSound, openSound } from './take-sound-reader';

/** All that is found out about a take's voice, in one pass over its sound. */
export interface TakeProfile extends VoiceProfile {
  peaks: Uint8Array<ArrayBuffer>;
  speech: Stretch[];
}

/** Where a take's sound is, and what was found there; `null` where it cannot be read. */
export type ProfileTask = string;
export type ProfileReport = TakeProfile | null;

onmessage = async ({ data: url }: MessageEvent<ProfileTask>) => {
  const report = await profileOf(url).catch(() => null);
  const transfer = report ? [report.peaks.buffer, report.energies.buffer] : [];
  postMessage(report satisfies ProfileReport, { transfer });
};

async function profileOf(url: string): Promise<TakeProfile> {
  const peaks = new PeakGatherer();
  const energies = new EnergyGatherer();
  const noise = new NoiseGatherer();
  const track = await openSound(url);
  if (track) {
    for await (const { samples } of decodeSound(track)) {
      peaks.add(samples);
      energies.add(samples);
      noise.add(samples);
    }
  }
  const gathered = energies.finish();
  const speech = speechIn(gathered);
  return { peaks: peaks.finish(), energies: gathered, speech, noise: noise.finish(speech) };
}
