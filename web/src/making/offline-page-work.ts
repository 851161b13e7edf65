import { soundFileOf, type ServedSound } from '../playback/served-sound';
import type { OfflineKind, OfflineLesson } from '../workers/offline-page/offline-page';
import type { OfflinePageWorker } from '../workers/offline-page/offline-page.worker';
import PageWorker from '../workers/offline-page/offline-page.worker?worker';
import { withWorker } from '../workers/with-worker';
import { newMakingId, type Work } from './makings';

/** So much of the work is the sound. */
const SOUND_SHARE = 0.9;

/** A lesson as one file that needs no network. @param sound `null` where nobody speaks */
export const offlinePageWork = (
  { of, name, kind }: { of: string; name: string; kind: OfflineKind },
  lesson: OfflineLesson,
  sound: ServedSound | null,
): Work => ({
  id: newMakingId(),
  lesson: lesson.lesson,
  of,
  name,
  isLong: true,
  async make(told) {
    const { onDone, signal } = told;
    const file =
      sound && (await soundFileOf(sound, 'aac-light', { ...told, onDone: (done) => onDone(done * SOUND_SHARE) }));
    onDone(SOUND_SHARE);
    const made = await withWorker<OfflinePageWorker, Blob>(
      new PageWorker(),
      (worker) => worker.make(lesson, file, kind),
      { signal },
    );
    onDone(1);
    return made;
  },
});
