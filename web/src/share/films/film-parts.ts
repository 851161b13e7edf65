import { filmBytes } from '@kite-trail/core/film/estimate';
import type { FilmSettings } from '@kite-trail/core/film/settings';
import { writeWebVtt } from '@kite-trail/core/formats/timed-text';
import { timedText } from '@kite-trail/core/trail/captions';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import { trim, type Stretch } from '@kite-trail/core/trail/edit';
import { programmeLength } from '@kite-trail/core/trail/programme';
import { Timeline } from '@kite-trail/core/trail/timeline';
import { flatten } from '@kite-trail/core/trail/trail';
import { computed } from 'vue';
import { fileNameOf } from '../../device/file-name';
import { saveText } from '../../device/save-file';
import { usePlaced } from '../../lesson/edition/placed';
import { useFilms } from '../../lesson/films';
import { useLesson } from '../../lesson/lesson';
import { ofLesson } from '../../lesson/lesson-scope';
import { useVoiceUrls } from '../../lesson/voice-urls';

/** By this name the queue knows the films of a lesson. */
export const FILM = 'film';

/** How much of a lesson a film shows. */
export type FilmExtent =
  | { kind: 'whole' }
  /** One file for each chapter. */
  | { kind: 'chapters' }
  | { kind: 'stretch'; stretch: Stretch; title?: string };

/** What of the lesson a film may be made of. */
export const useFilmParts = ofLesson(() => {
  const lesson = useLesson();
  const films = useFilms();
  const placed = usePlaced();
  const voiceUrls = useVoiceUrls();

  const chapters = computed(() => placed.chaptersOf(lesson.programme, lesson.timeline!));

  /** The chapters as stretches: each lasts until the next. */
  const chapterStretches = computed(() =>
    chapters.value.map(({ startSamples, title }, n) => ({
      title,
      stretch: { fromSamples: startSamples, toSamples: chapters.value[n + 1]?.startSamples ?? lesson.lengthSamples },
    })),
  );

  function filmed(stretch: Stretch | null) {
    const { timeline, programme, recorded } = lesson;
    if (!stretch) return { programme, timeline: timeline! };
    const part = trim(programme, stretch.fromSamples, stretch.toSamples);
    return { programme: part, timeline: new Timeline(recorded!.base, flatten(part, recorded!.takes)) };
  }

  const titleOf = (part: string | undefined) => {
    const { title } = lesson.document!;
    return part ? `${title}: ${part}` : title;
  };

  async function order(extent: FilmExtent, settings: FilmSettings): Promise<void> {
    if (extent.kind === 'chapters') {
      for (const { title, stretch } of chapterStretches.value) await orderOne(titleOf(title), stretch, settings);
    } else {
      const { stretch, title } = extent.kind === 'stretch' ? extent : { stretch: null, title: undefined };
      await orderOne(titleOf(title), stretch, settings);
    }
  }

  async function orderOne(title: string, stretch: Stretch | null, settings: FilmSettings): Promise<void> {
    const film = filmed(stretch);
    const isOrdered = await films.order({ of: FILM, title, ...film }, settings);
    const cues = placed.cuesOf(film.programme);
    if (isOrdered && settings.captions === 'file' && cues.length > 0) {
      saveText(fileNameOf(title, '.vtt'), 'text/vtt', writeWebVtt(cues.map(timedText)));
    }
  }

  const framesOf = computed(() => {
    const counted = new Map<number, number>();
    return (framesPerSecond: number) => {
      const count = counted.get(framesPerSecond) ?? lesson.timeline!.changedFrames(framesPerSecond).length;
      counted.set(framesPerSecond, count);
      return count;
    };
  });

  /** How large what is made will be, in all, about; of a stretch, its share. */
  function bytesOf(settings: FilmSettings, extent: FilmExtent): number {
    const whole = programmeLength(lesson.programme);
    const { fromSamples, toSamples } =
      extent.kind === 'stretch' ? extent.stretch : { fromSamples: 0, toSamples: whole };
    const share = whole === 0 ? 0 : Math.max(0, toSamples - fromSamples) / whole;
    const hasSound = voiceUrls.ofAll(lesson.programme).size > 0;
    const frames = framesOf.value(settings.framesPerSecond) * share;
    return filmBytes(settings, { seconds: samplesToSeconds(whole) * share, frames, hasSound });
  }

  return { chapterStretches, order, bytesOf };
});
