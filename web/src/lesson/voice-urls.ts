import type { TakeId } from '@kite-trail/core/lesson/ids';
import { takesIn, voiceOf, type Programme } from '@kite-trail/core/trail/programme';
import type { SoundSources } from '../workers/sound/take-sound-reader';
import { takeSoundUrl } from '../server/api';
import { useLesson } from './lesson';
import { ofLesson } from './lesson-scope';
import { useTakeSounds } from './take-sounds';

/** Where the voices of the lesson that is open can be played from: this device while they are only here, then the school. */
export const useVoiceUrls = ofLesson(() => {
  const lesson = useLesson();
  const sounds = useTakeSounds();

  /** Where a take's voice can be played from, or `null` where it has none. */
  function of(take: TakeId): string | null {
    return sounds.urlOf(take) ?? (lesson.takes.get(take)?.sound ? takeSoundUrl(take) : null);
  }

  /** The addresses of all voices of a programme, for workers. */
  function ofAll(programme: Programme): Map<TakeId, string> {
    const urls = new Map<TakeId, string>();
    for (const take of takesIn(programme)) {
      const url = of(take);
      if (url && programme.some((segment) => voiceOf(segment)?.take === take))
        urls.set(take, new URL(url, location.href).href);
    }
    return urls;
  }

  /** All voices of a programme, also for what goes on when the lesson is left: its addresses end with it. */
  const sourcesOf = (programme: Programme): SoundSources =>
    new Map([...ofAll(programme)].map(([take, url]) => [take, sounds.soundOf(take) ?? url]));

  return { of, ofAll, sourcesOf };
});
