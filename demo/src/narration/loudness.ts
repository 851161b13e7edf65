import type { TakeId } from '@kite-trail/core/lesson/ids';
import { PeakGatherer, PeakLevels } from '@kite-trail/core/sound/peaks';
import { ribbonOf } from '@kite-trail/core/sound/ribbon';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { whole } from '@kite-trail/core/trail/edit';
import { BufferSource, EncodedPacketSink, Input, OGG } from 'mediabunny';
import { OpusDecoder } from 'opus-decoder';

const MONO = { channels: 1, streamCount: 1, coupledStreamCount: 0, channelMappingTable: [0], preSkip: 0 };
const STEP_SAMPLES = secondsToSamples(0.1);

/** How loud a narration is from tenth to tenth of a second, a byte each, as links say it. @param sound Ogg Opus */
export async function loudnessOf(sound: Uint8Array, lengthSamples: number): Promise<Uint8Array> {
  const track = await new Input({ source: new BufferSource(sound), formats: [OGG] }).getPrimaryAudioTrack();
  const decoder = new OpusDecoder(MONO);
  await decoder.ready;
  const peaks = new PeakGatherer();
  for await (const { data } of new EncodedPacketSink(track!).packets())
    peaks.add(decoder.decodeFrame(data).channelData[0]);
  decoder.free();
  const take = 'narration' as TakeId;
  const heard = new Map([[take, new PeakLevels(peaks.take())]]);
  const all = { fromSamples: 0, toSamples: lengthSamples };
  const ribbon = ribbonOf([whole({ id: take, lengthSamples })], heard, all, Math.ceil(lengthSamples / STEP_SAMPLES));
  return Uint8Array.from(ribbon, (one) => Math.round(one * 255));
}
