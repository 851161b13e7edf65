/** What a programme's sound is encoded as: AAC-LC (ISO/IEC 14496-3), also with fewer bits, Opus (RFC 6716), or samples of 16 bits as they are. */
export type SoundCodec = 'aac' | 'aac-light' | 'opus' | 'pcm-s16';

/** As they are encoded, in bits a second. */
export const SOUND_BITS_PER_SECOND: Record<SoundCodec, number> = {
  // Clear speech, light on a school's network. At 56 kbit/s the codec's noise was seen to add three decibels to peaks, at 64 mostly less
  // than one.
  aac: 64_000,
  // For files that hold all within them as text, a third larger than it is. Opus would be clearer, but not every phone plays it.
  'aac-light': 44_000,
  // As clear with fewer.
  opus: 48_000,
  'pcm-s16': 16 * 48_000,
};

/** How large a sound is, in bytes, about. */
export const soundBytes = (codec: SoundCodec, seconds: number): number => (seconds * SOUND_BITS_PER_SECOND[codec]) / 8;

/** In MP4, Ogg and WAV (RFC 4337, RFC 5334; the last by common practice). */
export const SOUND_TYPES: Record<SoundCodec, string> = {
  aac: 'audio/mp4',
  'aac-light': 'audio/mp4',
  opus: 'audio/ogg',
  'pcm-s16': 'audio/wav',
};
