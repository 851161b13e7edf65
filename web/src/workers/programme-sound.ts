import { registerAacEncoder } from '@mediabunny/aac-encoder';
import { mixProgramme } from '@kite-trail/core/sound/mix';
import { CLOCK_HZ, samplesToSeconds } from '@kite-trail/core/trail/clock';
import { programmeLength, type Programme } from '@kite-trail/core/trail/programme';
import { AudioSample, canEncodeAudio, Quality, type AudioEncodingConfig, type AudioSampleSource } from 'mediabunny';
import { TakeSoundReader, type SoundUrls } from './take-sound-reader';

/** 56 kbit/s mono is 420 kB a minute: clear speech, light on a school's network. */
export const AAC_BITS_PER_SECOND = 56_000;

/** AAC-LC (ISO/IEC 14496-3), which everything plays. */
export const AAC_CONFIG: AudioEncodingConfig = {
  codec: 'aac',
  fullCodecString: 'mp4a.40.2',
  quality: new Quality({ bitrate: AAC_BITS_PER_SECOND }),
};

/** Makes sure AAC can be encoded, by the packaged encoder where the browser has none. */
export async function prepareAac(): Promise<void> {
  if (!(await canEncodeAudio('aac', { numberOfChannels: 1, sampleRate: CLOCK_HZ }))) registerAacEncoder();
}

/** Feeds a programme's mixed sound to an encoder, telling how far it has come (0 to 1), which may make it wait. */
export async function feedProgramme(
  programme: Programme,
  urls: SoundUrls,
  source: AudioSampleSource,
  onProgress: (done: number) => void | Promise<void> = () => {},
): Promise<void> {
  const length = programmeLength(programme);
  let written = 0;
  for await (const block of mixProgramme(programme, new TakeSoundReader(urls))) {
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
}
