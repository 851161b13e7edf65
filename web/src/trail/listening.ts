import type { Programme } from '@kite-trail/core/trail/programme';
import type { Moment } from '@kite-trail/core/trail/timeline';
import { computed, ref, watch } from 'vue';
import { useLesson } from '../lesson/lesson';
import { useVoiceUrls } from '../lesson/voice-urls';
import { ofLesson } from '../lesson/lesson-scope';
import { useVoices } from '../lesson/voices';
import { TrailPlayer } from '../playback/trail-player';
import { usePlayer } from '../playback/use-player';
import { useAudition } from './audition';

/** Listening to the trail, or to what is heard in its place. */
export const useListening = ofLesson(() => {
  const lesson = useLesson();
  const voiceUrls = useVoiceUrls();
  const voices = useVoices();
  const audition = useAudition();
  const player = usePlayer<TrailPlayer>();
  const { samples, playing, rate } = player;
  /** Where to stop, while a part is heard by itself. */
  const until = ref<number | null>(null);
  let loaded: Programme | null = null;

  /** The player of what is to be heard now. */
  function current(): typeof player {
    if (loaded !== audition.programme) {
      loaded = audition.programme;
      player.load(new TrailPlayer(loaded, voicesOf));
      until.value = null;
    }
    return player;
  }
  watch(() => audition.programme, current, { immediate: true });

  function voicesOf(programme: Programme) {
    return { programme, urls: voiceUrls.ofAll(programme), mastering: voices.masteringNow(programme) };
  }

  // Whoever switches the sound while it plays hears the difference.
  watch(
    () => lesson.edition.sound,
    () => playing.value && current().seek(samples.value),
  );
  // While a part is heard by itself, playback stops at its end.
  watch(samples, (now) => {
    if (until.value === null || now < until.value) return;
    until.value = null;
    player.pause();
  });

  const picture = computed(() => ({
    programme: audition.programme,
    trail: audition.timeline?.trail ?? { lengthSamples: 0, marks: [] },
    peaks: voices.peaks,
  }));
  /** What is to be seen at the playhead. */
  const moment = computed<Moment | null>(() => audition.timeline?.at(samples.value) ?? null);
  const isAtEnd = computed(() => samples.value >= lesson.lengthSamples);

  function seek(to: number): void {
    until.value = null;
    current().seek(to);
  }

  /** Goes along with a finger, heard as it goes. */
  function scrub(to: number): void {
    until.value = null;
    current().player.value?.scrub(to);
  }

  /** Lets a part be heard by itself. */
  function hear(from: number, to: number): void {
    seek(Math.max(0, from));
    until.value = to;
    player.play();
  }

  function hearFromStart(): void {
    seek(0);
    player.play();
  }

  function toggle(): void {
    until.value = null;
    current().toggle();
  }

  /** Stops listening, and goes where the trail ends. */
  function leave(): void {
    player.pause();
    audition.end();
    seek(lesson.lengthSamples);
  }

  return {
    samples,
    playing,
    rate,
    picture,
    moment,
    isAtEnd,
    seek,
    scrub,
    hear,
    hearFromStart,
    toggle,
    pause: () => player.pause(),
    setRate: (to: number) => player.setRate(to),
    leave,
  };
});
