import { encodePayload } from '@kite-trail/core/formats/payload';
import type { Scene } from '@kite-trail/core/lesson/scene';
import type { Programme } from '@kite-trail/core/trail/programme';
import type { Trail } from '@kite-trail/core/trail/trail';
import { onScopeDispose, ref, shallowRef } from 'vue';
import { useLesson } from './lesson';
import { useVoices } from './voices';
import { canMakeVideos, ProgrammeVideo } from '../playback/programme-video';
import { servedMastering } from '../playback/served-sound';
import { ofLesson } from './lesson-scope';

/** What is to be seen and heard in a film. */
interface Filmed {
  name: string;
  base: Scene;
  trail: Trail;
  programme: Programme;
}

/** The films that are made of the open lesson. They go on while the panel that began them is closed, until the lesson is left. */
export const useFilms = ofLesson(() => {
  const films = new Map<string, ReturnType<typeof filmOf>>();
  const [lesson, voices] = [useLesson(), useVoices()];

  /** The film of something, by a name of its own. */
  function of(what: string): ReturnType<typeof filmOf> {
    const film = films.get(what) ?? filmOf(lesson, voices);
    films.set(what, film);
    return film;
  }

  onScopeDispose(() => films.forEach((film) => film.cancel()));

  return { of };
});

function filmOf(lesson: ReturnType<typeof useLesson>, voices: ReturnType<typeof useVoices>) {
  /** From 0 to 1 while it is being made. */
  const progress = ref<number | null>(null);
  const film = shallowRef<{ url: string; name: string } | null>(null);
  const problem = ref('');
  let making: AbortController | null = null;

  async function make(filmed: Filmed): Promise<void> {
    problem.value = '';
    film.value = null;
    if (!canMakeVideos()) {
      problem.value = 'This browser cannot make videos. Use a current Chrome, Edge or Safari. Links work in all.';
      return;
    }
    progress.value = 0;
    const abort = (making = new AbortController());
    try {
      const made = await madeFilm(filmed, abort.signal);
      // Another one may have been begun since this one was given up.
      if (making === abort) film.value = made;
    } catch (error) {
      if ((error as Error).name !== 'AbortError') problem.value = `The video was not made: ${(error as Error).message}`;
    } finally {
      if (making === abort) making = progress.value = null;
    }
  }

  /** @throws DOMException `AbortError` when it is given up */
  async function madeFilm({ name, base, trail, programme }: Filmed, signal: AbortSignal) {
    const payload = encodePayload({ base, trail });
    const served = await voices.served(programme);
    const mastering = await servedMastering(served, signal);
    signal.throwIfAborted();
    const video = new ProgrammeVideo(lesson.document!.id, payload, { programme, urls: served.urls, mastering });
    video.onProgress = (done) => (progress.value = done);
    signal.addEventListener('abort', () => video.cancel(), { once: true });
    const fileName = `${name.replace(/[^\p{L}\p{N} _-]/gu, '').trim() || 'lesson'}.mp4`;
    return { url: URL.createObjectURL(await video.file), name: fileName };
  }

  function cancel(): void {
    making?.abort(new DOMException('The video was given up.', 'AbortError'));
    making = progress.value = null;
  }

  return { progress, film, problem, make, cancel };
}
