import type { FilmChapter } from '@kite-trail/core/formats/chapters/film-chapter';
import { filledCues, type Cue } from '@kite-trail/core/trail/captions';
import { placeChapters, type PlacedChapter } from '@kite-trail/core/trail/chapters';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import type { Programme } from '@kite-trail/core/trail/programme';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { useLesson } from '../lesson';
import { ofLesson } from '../lesson-scope';

/** What is tied to moments of takes, where it is in a programme: of the lesson, or of a part of it. */
export const usePlaced = ofLesson(() => {
  const lesson = useLesson();

  function chaptersOf(programme: Programme, timeline: Timeline): PlacedChapter[] {
    const { recorded, edition } = lesson;
    const pages = { shownFirst: timeline.base.shown, pages: timeline.pagesAtEnd };
    return recorded ? placeChapters(pages, programme, recorded.takes, edition.chapters) : [];
  }

  /** Chapters as files tell them. */
  const filmChapters = (programme: Programme, timeline: Timeline): FilmChapter[] =>
    chaptersOf(programme, timeline).map(({ title, startSamples }) => ({
      title,
      startSeconds: samplesToSeconds(startSamples),
    }));

  /** The captions that say something. */
  const cuesOf = (programme: Programme): Cue[] => filledCues(programme, lesson.edition.captions);

  return { chaptersOf, filmChapters, cuesOf };
});
