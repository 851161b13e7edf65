import { watch } from 'vue';
import { idle } from '../device/idle';
import { useLesson } from '../lesson/lesson';
import { useVoices } from '../lesson/voices';
import { soundFileOf } from '../playback/served-sound';

/**
 * Makes the lesson's sound while its teacher still looks round in Share: link and film, which both need it, then have half the work
 * left. A lesson whose link is up to date has been shared; whoever pays by the byte makes nothing before it is asked for.
 */
export function useSoundAhead(): void {
  const lesson = useLesson();
  const voices = useVoices();

  async function make(signal: AbortSignal): Promise<void> {
    await idle();
    signal.throwIfAborted();
    const sound = await voices.served(lesson.programme);
    if (sound.voices.size > 0) await soundFileOf(sound, 'aac', { signal });
  }

  const isWanted = () => lesson.lengthSamples > 0 && lesson.document?.link?.upToDate !== true && !savesData();
  watch(
    () => (isWanted() ? lesson.programme : null),
    (programme, _, onCleanup) => {
      if (!programme) return;
      const abort = new AbortController();
      onCleanup(() => abort.abort(new DOMException('Nobody waits for it.', 'AbortError')));
      // What goes wrong is told where the sound is asked for.
      make(abort.signal).catch(() => {});
    },
    { immediate: true },
  );
}

/** Whether whoever uses this device wants to transfer as little as possible (WICG Save-Data); the DOM types do not know it yet. */
const savesData = (): boolean => (navigator as { connection?: { saveData?: boolean } }).connection?.saveData === true;
