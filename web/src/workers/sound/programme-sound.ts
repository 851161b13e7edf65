import { registerAacEncoder } from '@mediabunny/aac-encoder';
import { SOUND_BITS_PER_SECOND, type SoundCodec } from '@kite-trail/core/film/sound';
import { masterProgramme, type Mastering } from '@kite-trail/core/sound/mastering';
import { CLOCK_HZ, samplesToSeconds } from '@kite-trail/core/trail/clock';
import { programmeLength, type Programme } from '@kite-trail/core/trail/programme';
import {
  AdtsOutputFormat,
  AudioSample,
  AudioSampleSource,
  NullTarget,
  OggOutputFormat,
  Output,
  Quality,
  WavOutputFormat,
  type AudioEncodingConfig,
  type OutputFormat,
} from 'mediabunny';
import { TakeSoundReader, type SoundSources } from './take-sound-reader';

/**
 * What the encoder puts before the first sample (its priming). Packets are dated earlier by as much, which the file
 * states in an edit list (ISO/IEC 14496-12, section 8.6.6); players then start at the first sample proper.
 */
const PRIMING_SAMPLES = 1024;

interface Encoding {
  config: AudioEncodingConfig;
  /** Any that takes it will do: nothing is written. */
  format: OutputFormat;
  primingSamples: number;
}

const ENCODINGS: Record<SoundCodec, () => Encoding> = {
  aac: () => aacOf(SOUND_BITS_PER_SECOND.aac),
  'aac-light': () => aacOf(SOUND_BITS_PER_SECOND['aac-light']),
  opus: () => ({
    config: { codec: 'opus', quality: new Quality({ bitrate: SOUND_BITS_PER_SECOND.opus }) },
    format: new OggOutputFormat(),
    primingSamples: 0,
  }),
  'pcm-s16': () => ({ config: { codec: 'pcm-s16' }, format: new WavOutputFormat(), primingSamples: 0 }),
};

function aacOf(bitrate: number): Encoding {
  return {
    config: { codec: 'aac', fullCodecString: 'mp4a.40.2', quality: new Quality({ bitrate }) },
    format: new AdtsOutputFormat(),
    primingSamples: PRIMING_SAMPLES,
  };
}

/** A packet of encoded sound, dated so that the programme's first sample is at zero. */
export interface SoundPacket {
  data: Uint8Array;
  timestamp: number;
  duration: number;
  /** What a decoder needs to know; it comes with the first packet. */
  meta: EncodedAudioChunkMetadata | undefined;
}

/** A programme's sound that is to be encoded. */
export interface SoundTask {
  programme: Programme;
  voices: SoundSources;
  mastering: Mastering;
  codec: SoundCodec;
}

/**
 * Encodes a programme's sound; as AAC always with the packaged encoder: its priming is known, and it sounds alike in all browsers.
 * @param onProgress hears how much is done (0 to 1), and may make the work wait
 */
export async function encodeProgrammeSound(
  { programme, voices, mastering, codec }: SoundTask,
  onPacket: (packet: SoundPacket) => void | Promise<void>,
  onProgress: (done: number) => void | Promise<void> = () => {},
): Promise<void> {
  const { config, format, primingSamples } = ENCODINGS[codec]();
  if (config.codec === 'aac') registerAacEncoder();
  const source = new AudioSampleSource({
    ...config,
    onEncodedPacket: ({ data, timestamp, duration }, meta) =>
      onPacket({ data, timestamp: timestamp - samplesToSeconds(primingSamples), duration, meta }),
  });
  const output = new Output({ format, target: new NullTarget() });
  output.addAudioTrack(source);
  await output.start();
  const length = programmeLength(programme);
  let written = 0;
  for await (const block of masterProgramme(programme, new TakeSoundReader(voices), mastering)) {
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
