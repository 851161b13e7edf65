import { containerOf, filmSettings, USUAL_FILM } from '@kite-trail/core/film/settings';
import { encodePayload } from '@kite-trail/core/formats/payload';
import type { Programme } from '@kite-trail/core/trail/programme';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { ref } from 'vue';
import { useSession } from '../app/session';
import { useAttempt } from '../controls/attempt';
import { fileNameOf } from '../device/file-name';
import { useKeptJson } from '../device/kept-setting';
import { encoderOf, NO_ENCODER } from '../making/film/can-encode';
import type { KeptSound } from '../making/film/film-order';
import { useFilmOrders } from '../making/film/film-orders';
import { newMakingId } from '../making/makings';
import { UNCHECKED_CEILING_DBTP, type ServedSound } from '../playback/served-sound';
import { usePlaced } from './edition/placed';
import { useLesson } from './lesson';
import { ofLesson } from './lesson-scope';
import { useVoices } from './voices';

/** What is to be seen and heard in a film. */
interface Filmed {
  /** Of what of the lesson it is. */
  of: string;
  title: string;
  programme: Programme;
  timeline: Timeline;
}

/** The films of the open lesson: what they are like, and how one is ordered. They are made whatever becomes of the lesson. */
export const useFilms = ofLesson(() => {
  const lesson = useLesson();
  const voices = useVoices();
  const placed = usePlaced();
  const orders = useFilmOrders();
  const session = useSession();
  const { problem, attempt } = useAttempt();
  const settings = useKeptJson('kite-trail-film', filmSettings, USUAL_FILM);
  /** A voice that nobody has listened to yet takes a while. */
  const isOrdering = ref(false);

  /** Puts a film into the queue, of what is there now. @returns whether it is there */
  async function order(filmed: Filmed, asked = settings.value): Promise<boolean> {
    isOrdering.value = true;
    const isOrdered = await attempt(async () => {
      if (!(await encoderOf(asked))) throw new Error(NO_ENCODER);
      const { of, title, programme, timeline } = filmed;
      const [{ id, about }, { id: teacher }] = [lesson.document!, session.teacher!];
      const shown = {
        payload: encodePayload({ base: timeline.base, trail: timeline.trail }),
        chapters: placed.filmChapters(programme, timeline),
        cues: placed.cuesOf(programme),
      };
      const heard = await voices.served(programme);
      const sound = heard.voices.size > 0 ? heard : null;
      const film = { id: newMakingId(), teacher, lesson: id, of, title, settings: asked, orderedMs: Date.now() };
      const name = fileNameOf(title, `.${containerOf(asked.codec)}`);
      const made = { ...film, ...shown, name, language: about.language, sound: sound && kept(sound) };
      await orders.order(made, sound);
    });
    isOrdering.value = false;
    return isOrdered;
  }

  return { settings, problem, isOrdering, order };
});

const kept = ({ masteringUnder, ...same }: ServedSound): KeptSound => ({
  ...same,
  mastering: masteringUnder(),
  quieter: masteringUnder(UNCHECKED_CEILING_DBTP),
});
