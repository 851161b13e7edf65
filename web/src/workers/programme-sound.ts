import { registerAacEncoder } from '@mediabunny/aac-encoder';
import { masterProgramme, type Mastering } from '@kite-trail/core/sound/mastering';
import { CLOCK_HZ, samplesToSeconds } from '@kite-trail/core/trail/clock';
import { programmeLength, type Programme } from '@kite-trail/core/trail/programme';
import { AdtsOutputFormat, AudioSample, AudioSampleSource, NullTarget, Output, Quality } from 'mediabunny';
import { TakeSoundReader, type SoundUrls } from './take-sound-reader';

/**
 * 64 kbit/s mono is 480 kB a minute: clear speech, light on a school's network. At 56 kbit/s the codec's noise was seen to add
 * three decibels to peaks, at 64 mostly less than one.
 */
const AAC_BITS_PER_SECOND = 64_000;

/**
 * What the encoder puts before the first sample (its priming). Packets are dated earlier by as much, which the file
 * states in an edit list (ISO/IEC 14496-12, section 8.6.6); players then start at the first sample proper.
 */
const PRIMING_SAMPLES = 1024;

/** An AAC packet, dated so that the programme's first sample is at zero. */
export interface SoundPacket {
  data: Uint8Array;
  timestamp: number;
  duration: number;
  /** What a decoder needs to know; it comes with the first packet. */
  meta: EncodedAudioChunkMetadata | undefined;
}

/**
 * Encodes a programme's sound as AAC-LC (ISO/IEC 14496-3), always with the packaged encoder: its priming is known, and
 * it sounds alike in all browsers.
 * @param onProgress hears how much is done (0 to 1), and may make the work wait
 */
export async function encodeProgrammeSound(
  programme: Programme,
  urls: SoundUrls,
  mastering: Mastering,
  onPacket: (packet: SoundPacket) => void | Promise<void>,
  onProgress: (done: number) => void | Promise<void>,
): Promise<void> {
  registerAacEncoder();
  const source = new AudioSampleSource({
    codec: 'aac',
    fullCodecString: 'mp4a.40.2',
    quality: new Quality({ bitrate: AAC_BITS_PER_SECOND }),
    onEncodedPacket: ({ data, timestamp, duration }, meta) =>
      onPacket({ data, timestamp: timestamp - samplesToSeconds(PRIMING_SAMPLES), duration, meta }),
  });
  const output = new Output({ format: new AdtsOutputFormat(), target: new NullTarget() });
  output.addAudioTrack(source);
  await output.start();
  const length = programmeLength(programme);
  let written = 0;
  for await (const block of masterProgramme(programme, new TakeSoundReader(urls), mastering)) {
    const sample = new AudioSample({
      data: block,
      format: 'f32-planar',
      numberOfChannels: 1,
      sampleRate: CLOCK_HZ,
      timestamp: samplesToSeconds(written),
    });
    written += block.length;
    await source.add(sample);
    sample.close();
    await onProgress(written / length);
  }
  await output.finalize();
}
