import type { TakeId } from '@kite-trail/core/lesson/ids';
import { takesIn } from '@kite-trail/core/trail/programme';
import { defineStore } from 'pinia';
import { shallowRef, watch } from 'vue';
import type { SoundReport, SoundTask } from '../workers/sound.worker';
import SoundWorker from '../workers/sound.worker?worker';
import { useLesson } from './lesson';

/** The takes' peaks, computed once each, beside the interface. */
export const useWaveform = defineStore('waveform', () => {
  const lesson = useLesson();
  const peaks = shallowRef<ReadonlyMap<TakeId, Uint8Array>>(new Map());
  const asked = new Set<TakeId>();

  watch(
    () => lesson.programme,
    (programme) => {
      for (const take of takesIn(programme)) {
        const url = lesson.soundUrl(take);
        if (asked.has(take) || !url) continue;
        asked.add(take);
        void peaksOf(url).then((found) => (peaks.value = new Map(peaks.value).set(take, found)));
      }
    },
    { immediate: true },
  );

  return { peaks };
});

function peaksOf(url: string): Promise<Uint8Array> {
  return new Promise((resolve) => {
    const worker = new SoundWorker();
    worker.onmessage = ({ data }: MessageEvent<SoundReport>) => {
      // A sound that cannot be read is drawn as silence; playing it says what is wrong.
      resolve(data.kind === 'peaks' ? data.peaks : new Uint8Array());
      worker.terminate();
    };
    const task: SoundTask = { kind: 'peaks', url };
    worker.postMessage(task);
  });
}
