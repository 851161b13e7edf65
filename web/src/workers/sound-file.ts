import type { Mastering } from '@kite-trail/core/sound/mastering';
import type { Programme } from '@kite-trail/core/trail/programme';
import { BufferTarget, EncodedAudioPacketSource, EncodedPacket, Mp4OutputFormat, Output } from 'mediabunny';
import { encodeProgrammeSound, type SoundPacket } from './programme-sound';
import type { SoundUrls } from './take-sound-reader';

/** A programme's sound is to be made one AAC file, for a link. */
export interface SoundTask {
  programme: Programme;
  urls: SoundUrls;
  mastering: Mastering;
}

/** Makes a programme's sound one MP4 file. @param onPacket hears each packet of it, in turn */
export async function makeSoundFile(
  { programme, urls, mastering }: SoundTask,
  onPacket: (packet: SoundPacket) => void | Promise<void> = () => {},
  onProgress: (done: number) => void = () => {},
): Promise<ArrayBuffer> {
  const target = new BufferTarget();
  const output = new Output({ format: new Mp4OutputFormat({ fastStart: 'in-memory' }), target });
  const source = new EncodedAudioPacketSource('aac');
  output.addAudioTrack(source);
  await output.start();
  await encodeProgrammeSound(
    programme,
    urls,
    mastering,
    async (packet) => {
      const { data, timestamp, duration, meta } = packet;
      await source.add(new EncodedPacket(data, 'key', timestamp, duration), meta);
      await onPacket(packet);
    },
    onProgress,
  );
  await output.finalize();
  return target.buffer!;
}
