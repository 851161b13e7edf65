import type { Transcript } from '@kite-trail/core/formats/transcript';
import { seenTexts } from '@kite-trail/core/search/typed';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import { usePlaced } from './placed';
import { useLesson } from '../lesson';
import { ofLesson } from '../lesson-scope';

/** What is said and written in the open lesson, in words. */
export const useTranscript = ofLesson(() => {
  const lesson = useLesson();
  const placed = usePlaced();

  function transcript(): Transcript {
    const { base, trail } = lesson.timeline!;
    const cues = placed.cuesOf(lesson.programme);
    const said = cues.map(({ startSamples, text }) => ({ kind: 'said' as const, atSamples: startSamples, text }));
    const written = seenTexts(base, trail.marks).map((one) => ({ kind: 'written' as const, ...one }));
    return {
      title: lesson.document!.title,
      chapters: placed.filmChapters(lesson.programme, lesson.timeline!),
      lines: [...said, ...written].map(({ kind, atSamples, text }) => ({
        kind,
        startSeconds: samplesToSeconds(atSamples),
        text,
      })),
    };
  }

  return { transcript };
});
