import { masteringOf } from '@kite-trail/core/sound/mastering';
import { PeakLevels } from '@kite-trail/core/sound/peaks';
import { profileOf, type TakeProfile } from '@kite-trail/core/sound/profile';
import { ribbonOf } from '@kite-trail/core/sound/ribbon';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import type { Edition } from '@kite-trail/core/trail/edition';
import { programmeLength, takesIn } from '@kite-trail/core/trail/programme';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import { listenTo } from '@kite-trail/web/workers/sound/listening';
import { BufferTarget } from 'mediabunny';
import { makeSoundFile } from '@kite-trail/web/workers/sound/sound-file';

const LOUDNESS_STEP_SAMPLES = secondsToSamples(0.1);

export interface LinkSound {
  /** AAC in MP4. */
  file: Uint8Array;
  /** How loud it is, a byte a step. */
  loudness: Uint8Array;
}

/**
 * Makes the sound of a link as a teacher's browser does, but for trying it: what the codec makes of these narrations' peaks is known.
 * @param soundOf a take's Ogg Opus
 */
export async function linkSoundOf(
  { programme, sound }: Edition,
  soundOf: (take: TakeId) => Promise<Uint8Array>,
): Promise<LinkSound> {
  const urls = new Map<TakeId, string>();
  const profiles = new Map<TakeId, TakeProfile>();
  for (const take of takesIn(programme)) {
    const url = URL.createObjectURL(new Blob([Uint8Array.from(await soundOf(take))]));
    urls.set(take, url);
    profiles.set(take, profileOf(await listenTo(url, { fromSamples: 0, toSamples: Infinity })));
  }
  const mastering = masteringOf(programme, sound, (take) => profiles.get(take));
  const target = new BufferTarget();
  await makeSoundFile({ programme, voices: urls, mastering, codec: 'aac' }, target);
  const file = new Uint8Array(target.buffer!);
  for (const url of urls.values()) URL.revokeObjectURL(url);
  const toSamples = programmeLength(programme);
  const peaks = new Map([...profiles].map(([take, profile]) => [take, new PeakLevels(profile.peaks)]));
  const ribbon = ribbonOf(
    programme,
    peaks,
    { fromSamples: 0, toSamples },
    Math.ceil(toSamples / LOUDNESS_STEP_SAMPLES),
  );
  return { file, loudness: Uint8Array.from(ribbon, (one) => Math.round(one * 255)) };
}
