import { AudioSample, AudioSampleSource, OggOutputFormat, Output, Quality, StreamTarget } from 'mediabunny';
import { ProfileGatherer, type HeardVoice } from '@kite-trail/core/sound/profile';
import { CLOCK_HZ, samplesToSeconds } from '@kite-trail/core/trail/clock';

/** To the encoder: samples in a row, or the end. */
export type ToVoiceEncoder = { samples: Float32Array<ArrayBuffer> } | 'finish';
/** From it: that it is ready, the next bytes of an Ogg Opus stream, what was heard next, that this is all, or that it failed. */
export type FromVoiceEncoder =
  | { ready: true }
  | { bytes: Uint8Array<ArrayBuffer> }
  | { heard: HeardVoice }
  | { finished: true }
  | { failed: string };

const OPUS_BITS_PER_SECOND = 40_000;
/** Bytes come out at least this often, so that little is lost with the browser. */
const PAGE_SECONDS = 0.3;

const post = (message: FromVoiceEncoder) => postMessage(message);

const source = new AudioSampleSource({ codec: 'opus', quality: new Quality({ bitrate: OPUS_BITS_PER_SECOND }) });
const output = new Output({
  format: new OggOutputFormat({ maximumPageDuration: PAGE_SECONDS }),
  target: new StreamTarget(new WritableStream({ write: ({ data }) => post({ bytes: data.slice() }) })),
});
output.addAudioTrack(source);

const listener = new ProfileGatherer();
let written = 0;
let queue = output
  .start()
  .then(() => post({ ready: true }))
  .catch(fail);

onmessage = ({ data }: MessageEvent<ToVoiceEncoder>) => {
  queue = queue.then(() => (data === 'finish' ? finish() : add(data.samples))).catch(fail);
};

async function add(samples: Float32Array<ArrayBuffer>): Promise<void> {
  const sample = new AudioSample({
    data: samples,
    format: 'f32-planar',
    numberOfChannels: 1,
    sampleRate: CLOCK_HZ,
    timestamp: samplesToSeconds(written),
  });
  written += samples.length;
  await source.add(sample);
  sample.close();
  // What could not be encoded was not heard.
  listener.add(samples);
  for (const heard of listener.takeMinutes()) post({ heard });
}

async function finish(): Promise<void> {
  if (written > 0) await output.finalize();
  post({ heard: listener.finish() });
  post({ finished: true });
}

function fail(error: unknown): void {
  post({ failed: error instanceof Error ? error.message : String(error) });
}
