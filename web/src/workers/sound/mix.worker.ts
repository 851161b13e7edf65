import { masterProgramme, type Mastering } from '@kite-trail/core/sound/mastering';
import { TimeStretch } from '@kite-trail/core/sound/time-stretch';
import type { Programme } from '@kite-trail/core/trail/programme';
import { TakeSoundReader, type SoundUrls } from './take-sound-reader';

/** First what to mix; then a request for every block. */
export type ToMixer = { programme: Programme; urls: SoundUrls; mastering: Mastering; rate: number } | 'next';
/** The next block, or `null` when all is out or nothing more can be read. */
export type FromMixer = Float32Array<ArrayBuffer> | null;

let blocks: AsyncGenerator<Float32Array> | null = null;

onmessage = async ({ data }: MessageEvent<ToMixer>) => {
  if (data !== 'next') {
    const mastered = masterProgramme(data.programme, new TakeSoundReader(data.urls), data.mastering);
    blocks = data.rate === 1 ? mastered : stretched(mastered, data.rate);
    return;
  }
  const block = await nextBlock();
  postMessage(block, { transfer: block ? [block.buffer] : [] });
};

async function* stretched(mastered: AsyncGenerator<Float32Array>, rate: number): AsyncGenerator<Float32Array> {
  const stretch = new TimeStretch(rate);
  for await (const block of mastered) {
    const made = stretch.process(block);
    if (made.length > 0) yield made;
  }
  yield stretch.finish();
}

async function nextBlock(): Promise<FromMixer> {
  try {
    const { value, done } = await blocks!.next();
    return done ? null : new Float32Array(value);
  } catch {
    return null;
  }
}
