import type { Mastering } from '@kite-trail/core/sound/mastering';
import type { Programme } from '@kite-trail/core/trail/programme';
import { BufferTarget, EncodedAudioPacketSource, EncodedPacket, Mp4OutputFormat, Output } from 'mediabunny';
import { encodeProgrammeSound } from './programme-sound';
import type { SoundUrls } from './take-sound-reader';

/** A programme's sound is to be made one AAC file, for a link. */
export interface SoundTask {
  programme: Programme;
  urls: SoundUrls;
  mastering: Mastering;
}
export type SoundReport =
  { kind: 'progress'; done: number } | { kind: 'file'; file: Blob } | { kind: 'failed'; message: string };

const report = (message: SoundReport) => postMessage(message);

onmessage = async ({ data: task }: MessageEvent<SoundTask>) => {
  try {
    report({ kind: 'file', file: await fileOf(task) });
  } catch (error) {
    report({ kind: 'failed', message: error instanceof Error ? error.message : String(error) });
  }
};

async function fileOf({ programme, urls, mastering }: SoundTask): Promise<Blob> {
  const target = new BufferTarget();
  const output = new Output({ format: new Mp4OutputFormat({ fastStart: 'in-memory' }), target });
  const source = new EncodedAudioPacketSource('aac');
  output.addAudioTrack(source);
  await output.start();
  await encodeProgrammeSound(
    programme,
    urls,
    mastering,
    ({ data, timestamp, duration, meta }) => source.add(new EncodedPacket(data, 'key', timestamp, duration), meta),
    (done) => report({ kind: 'progress', done }),
  );
  await output.finalize();
  return new Blob([target.buffer!], { type: 'audio/mp4' });
}
