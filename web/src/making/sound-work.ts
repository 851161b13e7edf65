import type { LessonId } from '@kite-trail/core/lesson/ids';
import { wrap } from 'comlink';
import { soundFileOf, type ServedSound } from '../playback/served-sound';
import type { DressedSoundWorker, SoundAbout } from '../workers/film/dressed-sound.worker';
import DressWorker from '../workers/film/dressed-sound.worker?worker';
import type { SoundCodec } from '../workers/programme-sound';
import { newMakingId, type Work } from './makings';

/** A lesson's sound alone, as a file with its name and its chapters; a WAV has neither. */
export function soundWork(
  lesson: LessonId,
  of: string,
  name: string,
  sound: ServedSound,
  codec: SoundCodec,
  about: SoundAbout,
): Work {
  return {
    id: newMakingId(),
    lesson,
    of,
    name,
    isLong: true,
    async make(told) {
      const file = await soundFileOf(sound, codec, told);
      if (codec === 'pcm-s16') return file;
      const worker = new DressWorker();
      try {
        return await wrap<DressedSoundWorker>(worker).dress(file, codec, about);
      } finally {
        worker.terminate();
      }
    },
  };
}
