import { mixProgramme } from '@kite-trail/core/sound/mix';
import type { Programme } from '@kite-trail/core/trail/programme';
import { TakeSoundReader, type SoundUrls } from './take-sound-reader';

/** First what to mix; then a request for every block. */
export type ToMixer = { programme: Programme; urls: SoundUrls } | 'next';
/** The next block, or `null` when all is out or nothing more can be read. */
export type FromMixer = Float32Array<ArrayBuffer> | null;

let blocks: AsyncGenerator<Float32Array> | null = null;

onmessage = async ({ data }: MessageEvent<ToMixer>) => {
  if (data !== 'next') {
    blocks = mixProgramme(data.programme, new TakeSoundReader(data.urls));
    return;
  }
  const block = await nextBlock();
  postMessage(block, { transfer: block ? [block.buffer] : [] });
};

async function nextBlock(): Promise<FromMixer> {
  try {
    const { value, done } = await blocks!.next();
    return done ? null : new Float32Array(value);
  } catch {
    return null;
  }
}
