import type { Mastering } from '@kite-trail/core/sound/mastering';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import { programmeLength, type Programme } from '@kite-trail/core/trail/programme';
import { Allowance } from './allowance';
import { encodeProgrammeSound, type SoundPacket } from './programme-sound';
import type { SoundUrls } from './take-sound-reader';

export interface ExportSoundTask {
  programme: Programme;
  urls: SoundUrls;
  mastering: Mastering;
  /** Leads to the worker that makes the pictures and the file. */
  port: MessagePort;
}

/** To the file's worker. */
export type EncodedSound = SoundPacket | 'end' | { failed: string };

onmessage = async ({ data: { programme, urls, mastering, port } }: MessageEvent<ExportSoundTask>) => {
  const allowance = new Allowance();
  port.onmessage = ({ data: pictureSeconds }: MessageEvent<number>) => allowance.moveTo(pictureSeconds);
  const post = (message: EncodedSound) => port.postMessage(message);
  const lengthSeconds = samplesToSeconds(programmeLength(programme));
  try {
    await encodeProgrammeSound(programme, urls, mastering, post, (done) => allowance.reach(done * lengthSeconds));
    post('end');
  } catch (error) {
    post({ failed: error instanceof Error ? error.message : String(error) });
  }
};
