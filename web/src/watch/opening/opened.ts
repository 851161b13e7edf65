import type { Watch } from '@kite-trail/core/contract/watch';
import type { TimedText } from '@kite-trail/core/formats/timed-text';
import type { SeenText } from '@kite-trail/core/search/typed';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { ImageStore } from '../../pictures/image-store';
import { ProgrammePlayer } from '../../playback/programme-player';
import type { usePlayer } from '../../playback/use-player';
import { momentNamed, placeToGoOn } from './kept-place';
import { loadWatched, NeedsPasscode, type Watched } from './load';

/** What a link leads to, as it is opened: its sound first, its pages a little later. */
export function useOpened(token: string, player: ReturnType<typeof usePlayer<ProgrammePlayer>>) {
  const about = shallowRef<Watch | null>(null);
  const watched = shallowRef<Watched | null>(null);
  const timeline = shallowRef<Timeline | null>(null);
  const captions = shallowRef<TimedText[]>([]);
  /** What was typed, and when it is seen first: nothing before it is looked for. */
  const typed = shallowRef<SeenText[]>([]);
  const images = shallowRef<ImageStore | null>(null);
  /** Counts pictures that have arrived. */
  const arrivals = ref(0);
  const problem = ref('');
  const isLocked = ref(false);
  /** What is to be heard has not come: everything waits for it. */
  const isWaiting = ref(false);
  /** Where somebody goes on who was here before, until they have begun; 0 for whoever was not. */
  const goesOnAt = ref(0);

  const title = computed(() => about.value?.title ?? '');
  const hasSound = computed(() => about.value?.hasSound ?? false);
  const chapters = computed(() => about.value?.chapters ?? []);
  const prompts = computed(() => about.value?.prompts ?? []);
  const loudness = computed(() => Uint8Array.from(atob(about.value?.loudness ?? ''), (letter) => letter.charCodeAt(0)));
  const length = computed(() => about.value?.lengthSamples ?? 0);
  /** What may be saved. */
  const files = computed(() => {
    if (!about.value?.mayDownload || !watched.value) return [];
    const sound = watched.value.soundUrl('' as never);
    const text = about.value.hasCaptions ? watched.value.captionsUrl : null;
    return [
      ...(sound ? [{ name: `${title.value}.m4a`, label: 'Save the sound', url: sound }] : []),
      ...(text ? [{ name: `${title.value}.vtt`, label: 'Save the text', url: text }] : []),
    ];
  });

  async function load(): Promise<void> {
    problem.value = '';
    isLocked.value = false;
    try {
      await open(await loadWatched(token));
    } catch (error) {
      if (error instanceof NeedsPasscode) isLocked.value = true;
      else problem.value = (error as Error).message;
    }
  }

  async function open(found: Watched): Promise<void> {
    watched.value = found;
    about.value = found.about;
    document.title = found.about.title;
    void found.captions.then((read) => (captions.value = read)).catch(() => {});
    const sound = new ProgrammePlayer(found.programme, found.soundUrl, found.begunSound);
    sound.onWaiting = (waiting) => (isWaiting.value = waiting);
    player.load(sound);
    beginWhereAsked(found.about.lengthSamples);
    images.value = new ImageStore(found.loadImage);
    images.value.onArrival = () => arrivals.value++;
    timeline.value = await found.timeline;
    void readTyped(timeline.value);
    // Whoever has begun needs the rest of the program later, or never.
    void import('../offline/keep-watched').then(({ keepWatched }) => keepWatched(found, timeline.value!));
  }

  /** Reading it is nothing that playing waits for. */
  async function readTyped({ base, trail }: Timeline): Promise<void> {
    const { seenTexts } = await import('@kite-trail/core/search/typed');
    typed.value = seenTexts(base, trail.marks);
  }

  /** At the moment the address names; else where somebody was. */
  function beginWhereAsked(lengthSamples: number): void {
    const named = momentNamed(location.hash);
    player.seek(named ?? placeToGoOn(token, lengthSamples));
    goesOnAt.value = named === null ? player.samples.value : 0;
  }

  onMounted(load);

  return {
    ...{ about, timeline, captions, typed, images, arrivals, problem, isLocked, isWaiting, goesOnAt },
    ...{ title, hasSound, chapters, prompts, loudness, length, files, load },
  };
}
