import { encodePayload } from '@kite-trail/core/formats/payload';
import { containerOf, filmSettings, USUAL_FILM, type FilmSettings } from '@kite-trail/core/film/settings';
import { placeCaptions } from '@kite-trail/core/trail/captions';
import { placeChapters, type PlacedChapter } from '@kite-trail/core/trail/chapters';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import { takesIn, type Programme } from '@kite-trail/core/trail/programme';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { checkedJson } from '@kite-trail/core/formats/bytes';
import { computed, ref } from 'vue';
import { useSession } from '../app/session';
import { fileNameOf } from '../device/file-name';
import { useKeptSetting } from '../device/kept-setting';
import { canMakeFilms } from '../making/film/film-maker';
import { useFilmOrders } from '../making/film/film-orders';
import { newMakingId } from '../making/makings';
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
  const orders = useFilmOrders();
  const session = useSession();
  const problem = ref('');
  const kept = useKeptSetting<string>('kite-trail-film', '');
  const settings = computed<FilmSettings>({
    get: () => readSettings(kept.value),
    set: (now) => (kept.value = JSON.stringify(now)),
  });

  /** The chapters of a programme of the lesson, where they play in it. */
  function chaptersOf(programme: Programme, timeline: Timeline): PlacedChapter[] {
    const { recorded, edition } = lesson;
    const pages = { shownFirst: timeline.base.shown, pages: timeline.pagesAtEnd };
    return recorded ? placeChapters(pages, programme, recorded.takes, edition.chapters) : [];
  }

  /** Puts a film into the queue, of what is there now. @returns whether this browser can make it */
  async function order({ of, title, programme, timeline }: Filmed, asked = settings.value): Promise<boolean> {
    problem.value = canMakeFilms()
      ? ''
      : 'This browser cannot make videos. Use a current Chrome, Edge, Firefox or Safari. Links work in all.';
    const { document, edition } = lesson;
    const { teacher } = session;
    if (problem.value || !document || !teacher) return false;
    const heard = await voices.served(programme);
    const chapters = chaptersOf(programme, timeline);
    await orders.order(
      {
        id: newMakingId(),
        teacher: teacher.id,
        lesson: document.id,
        of,
        name: fileNameOf(title, `.${containerOf(asked.codec)}`),
        title,
        language: document.about.language,
        settings: asked,
        payload: encodePayload({ base: timeline.base, trail: timeline.trail }),
        chapters: chapters.map((one) => ({ title: one.title, startSeconds: samplesToSeconds(one.startSamples) })),
        cues: placeCaptions(programme, edition.captions).filter(({ text }) => text !== ''),
        takes: [...takesIn(programme)],
        orderedMs: Date.now(),
      },
      heard.urls.size > 0 ? heard : null,
    );
    return true;
  }

  return { settings, problem, chaptersOf, order };
});

function readSettings(text: string): FilmSettings {
  try {
    return checkedJson(text, filmSettings);
  } catch {
    return USUAL_FILM;
  }
}
