import {
  EncodedAudioPacketSource,
  EncodedPacket,
  Mp4OutputFormat,
  OggOutputFormat,
  Output,
  WavOutputFormat,
  type OutputFormat,
  type Target,
} from 'mediabunny';
import type { SoundCodec } from '@kite-trail/core/film/sound';
import { encodeProgrammeSound, type SoundPacket, type SoundTask } from './programme-sound';

const FORMATS: Record<SoundCodec, () => OutputFormat> = {
  aac: () => new Mp4OutputFormat({ fastStart: 'in-memory' }),
  'aac-light': () => new Mp4OutputFormat({ fastStart: 'in-memory' }),
  opus: () => new OggOutputFormat(),
  'pcm-s16': () => new WavOutputFormat(),
};

/**
 * Makes a programme's sound one file: MP4, Ogg or WAV.
 * @param onPacket hears each packet of it, in turn
 * @param onProgress hears how much is done (0 to 1), and may make the work wait
 */
export async function makeSoundFile(
  task: SoundTask,
  target: Target,
  onPacket: (packet: SoundPacket) => void | Promise<void> = () => {},
  onProgress: (done: number) => void | Promise<void> = () => {},
): Promise<void> {
  const output = new Output({ format: FORMATS[task.codec](), target });
  const source = new EncodedAudioPacketSource(task.codec === 'aac-light' ? 'aac' : task.codec);
  output.addAudioTrack(source);
  await output.start();
  await encodeProgrammeSound(
    task,
    async (packet) => {
      const { data, timestamp, duration, meta } = packet;
      await source.add(new EncodedPacket(data, 'key', timestamp, duration), meta);
      await onPacket(packet);
    },
    onProgress,
  );
  await output.finalize();
}
