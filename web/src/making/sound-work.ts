import type { SoundCodec } from '@kite-trail/core/film/sound';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { soundFileOf, wavFileOf, type ServedSound } from '../playback/served-sound';
import type { DressedSoundWorker, SoundAbout } from '../workers/film/dressed-sound.worker';
import DressWorker from '../workers/film/dressed-sound.worker?worker';
import { removePrivate } from '../workers/private-files';
import { withWorker } from '../workers/with-worker';
import { newMakingId, type Work } from './makings';

interface AskedSound {
  lesson: LessonId;
  /** By what the queue knows it. */
  of: string;
  /** The file's name. */
  name: string;
  sound: ServedSound;
  codec: Exclude<SoundCodec, 'aac-light'>;
  about: SoundAbout;
}

/** A lesson's sound alone, as a file with its name and its chapters; a WAV has neither. */
export function soundWork({ sound, codec, about, ...asked }: AskedSound): Work {
  const id = newMakingId();
  const wav = ['sounds', `${id}.wav`];
  return {
    ...asked,
    id,
    isLong: true,
    async make(told) {
      if (codec === 'pcm-s16') return wavFileOf(sound, wav, told);
      const file = await soundFileOf(sound, codec, told);
      const dress = new DressWorker();
      return withWorker<DressedSoundWorker, Blob>(dress, (one) => one.dress(file, codec, about), {
        signal: told.signal,
      });
    },
    discard: () => removePrivate(wav),
  };
}
