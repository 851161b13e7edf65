import type { Mastering } from '@kite-trail/core/sound/mastering';
import type { Programme } from '@kite-trail/core/trail/programme';
import { BufferTarget, EncodedAudioPacketSource, EncodedPacket, Mp4OutputFormat, Output } from 'mediabunny';
import { DecodedPeak } from './decoded-peak';
import { encodeProgrammeSound } from './programme-sound';
import type { SoundUrls } from './take-sound-reader';

/** A programme's sound is to be made one AAC file, for a link. */
export interface SoundTask {
  programme: Programme;
  urls: SoundUrls;
  mastering: Mastering;
}
export type SoundReport =
  | { kind: 'progress'; done: number }
  /** `peakDb` is the true peak of what a decoder makes of the file; `null` where this browser has none. */
  | { kind: 'file'; file: Blob; peakDb: number | null }
  | { kind: 'failed'; message: string };

const report = (message: SoundReport) => postMessage(message);

onmessage = async ({ data: task }: MessageEvent<SoundTask>) => {
  try {
    report({ kind: 'file', ...(await fileOf(task)) });
  } catch (error) {
    report({ kind: 'failed', message: error instanceof Error ? error.message : String(error) });
  }
};

async function fileOf({ programme, urls, mastering }: SoundTask): Promise<{ file: Blob; peakDb: number | null }> {
  const target = new BufferTarget();
  const output = new Output({ format: new Mp4OutputFormat({ fastStart: 'in-memory' }), target });
  const source = new EncodedAudioPacketSource('aac');
  output.addAudioTrack(source);
  await output.start();
  const peak = new DecodedPeak();
  await encodeProgrammeSound(
    programme,
    urls,
    mastering,
    async (packet) => {
      const { data, timestamp, duration, meta } = packet;
      await source.add(new EncodedPacket(data, 'key', timestamp, duration), meta);
      await peak.add(packet);
    },
    (done) => report({ kind: 'progress', done }),
  );
  await output.finalize();
  return { file: new Blob([target.buffer!], { type: 'audio/mp4' }), peakDb: await peak.finish() };
}
