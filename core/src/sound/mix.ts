import type { TakeId } from '../lesson/ids';
import { fadeGain, FADE_SAMPLES } from './fade';
import { placeSegments, voiceGoesOn, voiceOf, type Programme } from '../trail/programme';

export const MIX_BLOCK_SAMPLES = 32_768;

/** Reads a take's decoded sound. What lies before its start or behind its end is silent. */
export interface TakeSound {
  read(take: TakeId, fromSamples: number, toSamples: number): Promise<Float32Array>;
}

/**
 * A programme's sound as mono blocks of at most 32,768 samples, exactly as long as the programme. A voice
 * sounds at the pace it was spoken; stretches that have none are silent.
 * @param gainOf by how much a take's voice is multiplied
 */
export async function* mixProgramme(
  programme: Programme,
  sound: TakeSound,
  gainOf: (take: TakeId) => number = () => 1,
): AsyncGenerator<Float32Array> {
  const placed = placeSegments(programme).filter((one) => one.endSamples > one.startSamples);
  for (const [i, one] of placed.entries()) {
    const length = one.endSamples - one.startSamples;
    const voice = voiceOf(one.segment);
    const fadeIn = i > 0 ? !voiceGoesOn(placed[i - 1].segment, one.segment) : (voice?.fromSamples ?? 0) > 0;
    const fadeOut = i + 1 === placed.length || !voiceGoesOn(one.segment, placed[i + 1].segment);
    for (let at = 0; at < length; at += MIX_BLOCK_SAMPLES) {
      const count = Math.min(MIX_BLOCK_SAMPLES, length - at);
      if (!voice) {
        yield new Float32Array(count);
        continue;
      }
      const from = voice.fromSamples + at;
      const block = await sound.read(voice.take, from, from + count);
      yield louder(faded(block, at, length, fadeIn, fadeOut), gainOf(voice.take));
    }
  }
}

const louder = (block: Float32Array, gain: number) => (gain === 1 ? block : block.map((sample) => sample * gain));

/** Applies raised-cosine fades to a block that lies `at` samples into a stretch of `length` samples. */
export function faded(
  block: Float32Array,
  at: number,
  length: number,
  fadeIn: boolean,
  fadeOut: boolean,
): Float32Array {
  const fade = Math.min(FADE_SAMPLES, Math.floor(length / 2));
  const nearStart = fadeIn && at < fade;
  const nearEnd = fadeOut && at + block.length > length - fade;
  if (!nearStart && !nearEnd) return block;
  return block.map((sample, i) => {
    const position = at + i;
    let gain = 1;
    if (fadeIn && position < fade) gain *= fadeGain(position / fade);
    if (fadeOut && position >= length - fade) gain *= fadeGain((length - 1 - position) / fade);
    return sample * gain;
  });
}
