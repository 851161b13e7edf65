import type { Watch } from '@kite-trail/core/contract/watch';
import { useEventListener, useIntervalFn } from '@vueuse/core';
import { watch, type Ref } from 'vue';
import type { ProgrammePlayer } from '../../playback/programme-player';
import type { usePlayer } from '../../playback/use-player';
import { ask } from '../opening/ask';
import { isOfSchool } from '../opening/load';
import { passFor } from '../opening/passcode';
import { Visit } from './visit';

const TOLD_EVERY_MS = 60_000;

/** Tells the school how this is watched, where that is counted, once somebody has begun. What cannot be told waits for the next time. */
export function useVisit(
  token: string,
  player: ReturnType<typeof usePlayer<ProgrammePlayer>>,
  about: Ref<Watch | null>,
  voiceRate: Ref<number>,
): void {
  let visit: Visit | null = null;
  let isNew = false;
  let isTelling = false;

  function tell(): void {
    // Two reports at once would be one to the school: the second waits for the first.
    if (!visit || !isNew || isTelling) return;
    isNew = false;
    isTelling = true;
    const report = visit.report();
    const path = `/api/watch/${token}/publications/${about.value!.publication}/visits${passFor(token)}`;
    const told = visit;
    ask(path, { method: 'POST', body: report })
      .then(
        () => told.hasBeenTold(report),
        () => (isNew = true),
      )
      .finally(() => (isTelling = false));
  }

  function note(): void {
    visit?.at(player.samples.value, player.playing.value ? voiceRate.value : 0);
    isNew = true;
  }

  watch(player.samples, () => visit && note());
  watch(player.playing, (is) => {
    if (is && !visit && about.value?.isCounted && isOfSchool(token)) {
      visit = new Visit(about.value);
      visit.beginAt(player.samples.value);
    }
    if (!visit) return;
    note();
    if (!is) tell();
  });
  useIntervalFn(tell, TOLD_EVERY_MS);
  useEventListener(document, 'visibilitychange', () => document.hidden && tell());
  useEventListener(window, 'pagehide', tell);
}
