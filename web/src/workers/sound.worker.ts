import { PeakGatherer } from '@kite-trail/core/sound/peaks';
import type { Programme } from '@kite-trail/core/trail/programme';
import { BufferTarget, EncodedAudioPacketSource, EncodedPacket, Mp4OutputFormat, Output } from 'mediabunny';
import { decodeSound, openSound, type SoundUrls } from './take-sound-reader';

/** Work on sound: a take's peaks for the waveform, or a programme's sound as one AAC file for a link. */
export type SoundTask = { kind: 'peaks'; url: string } | { kind: 'publish'; programme: Programme; urls: SoundUrls };
export type SoundReport =
  | { kind: 'progress'; done: number }
  | { kind: 'peaks'; peaks: Uint8Array }
  | { kind: 'file'; file: Blob }
  | { kind: 'failed'; message: string };

const report = (message: SoundReport) => postMessage(message);

onmessage = async ({ data: task }: MessageEvent<SoundTask>) => {
  try {
    if (task.kind === 'peaks') report({ kind: 'peaks', peaks: await peaksOf(task.url) });
    else report({ kind: 'file', file: await fileOf(task.programme, task.urls) });
  } catch (error) {
    report({ kind: 'failed', message: error instanceof Error ? error.message : String(error) });
  }
};

async function peaksOf(url: string): Promise<Uint8Array> {
  const gatherer = new PeakGatherer();
  const track = await openSound(url);
  if (track) for await (const { samples } of decodeSound(track)) gatherer.add(samples);
  return gatherer.finish();
}

async function fileOf(programme: Programme, urls: SoundUrls): Promise<Blob> {
  // Peaks alone need no encoder, which is large.
  const { encodeProgrammeSound } = await import('./programme-sound');
  const target = new BufferTarget();
  const output = new Output({ format: new Mp4OutputFormat({ fastStart: 'in-memory' }), target });
  const source = new EncodedAudioPacketSource('aac');
  output.addAudioTrack(source);
  await output.start();
  await encodeProgrammeSound(
    programme,
    urls,
    ({ data, timestamp, duration, meta }) => source.add(new EncodedPacket(data, 'key', timestamp, duration), meta),
    (done) => report({ kind: 'progress', done }),
  );
  await output.finalize();
  return new Blob([target.buffer!], { type: 'audio/mp4' });
}
