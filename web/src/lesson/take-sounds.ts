import type { TakeId } from '@kite-trail/core/lesson/ids';
import { onScopeDispose } from 'vue';
import { ofLesson } from './lesson-scope';

/** The voices of takes that are still only on this device, and addresses they can be played from as long as the lesson is open. */
export const useTakeSounds = ofLesson(() => {
  const urls = new Map<TakeId, string>();
  const sounds = new Map<TakeId, Blob>();

  function keep(take: TakeId, sound: Blob): void {
    if (sounds.has(take)) return;
    sounds.set(take, sound);
    urls.set(take, URL.createObjectURL(sound));
  }

  onScopeDispose(() => {
    for (const url of urls.values()) URL.revokeObjectURL(url);
  });

  return { keep, urlOf: (take: TakeId) => urls.get(take) ?? null, soundOf: (take: TakeId) => sounds.get(take) };
});
