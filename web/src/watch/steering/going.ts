import type { Watch } from '@kite-trail/core/contract/watch';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { computed, type Ref } from 'vue';
import type { ProgrammePlayer } from '../../playback/programme-player';
import type { usePlayer } from '../../playback/use-player';
import type { Pace } from './pace';
import { chapterFrom, stepFrom, strokeEnds, type Step } from './steps';

/** Going along the trail: by seconds, strokes, chapters, pages, and to a mark that is to be heard. */
export function useGoing(
  player: ReturnType<typeof usePlayer<ProgrammePlayer>>,
  timeline: Ref<Timeline | null>,
  chapters: Ref<Watch['chapters']>,
  pace: Pace,
) {
  const pages = computed(() => timeline.value?.pagesAtEnd ?? []);
  /** When each page is first turned to. */
  const turns = computed(() => {
    const found = new Map<PageId, number>();
    for (const mark of timeline.value?.trail.marks ?? []) {
      if (mark.kind === 'turn' && !found.has(mark.page)) found.set(mark.page, mark.atSamples);
    }
    return found;
  });
  const strokes = computed(() => (timeline.value ? strokeEnds(timeline.value.trail) : []));

  const skip = (seconds: number) => player.seek(player.samples.value + secondsToSamples(seconds));

  function toPage(number: number): void {
    const at = turns.value.get(pages.value[number - 1]);
    if (at !== undefined) player.seek(at);
  }

  function step(by: Step, direction: 1 | -1): void {
    const now = player.samples.value;
    const to = by === 'chapter' ? chapterFrom(chapters.value, now, direction) : stepFrom(strokes.value, now, direction);
    // Before the first there is the beginning.
    if (to !== null || direction < 0) player.seek(to ?? 0);
  }

  /** A mark is heard from where what is said with it begins. */
  function hear(atSamples: number): void {
    player.seek(pace.phraseAt(atSamples));
    player.play();
  }

  return { pages, skip, toPage, step, hear };
}
