import type { TakeId } from '@kite-trail/core/lesson/ids';
import { onScopeDispose } from 'vue';
import { ofLesson } from './lesson-scope';

/** The voices of takes that are still only on this device, as addresses they can be played from. */
export const useTakeSounds = ofLesson(() => {
  const urls = new Map<TakeId, string>();

  function keep(take: TakeId, sound: Blob): void {
    if (!urls.has(take)) urls.set(take, URL.createObjectURL(sound));
  }

  onScopeDispose(() => {
    for (const url of urls.values()) URL.revokeObjectURL(url);
  });

  return { keep, urlOf: (take: TakeId) => urls.get(take) ?? null };
});
