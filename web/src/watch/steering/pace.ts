import { quietIn, phraseStart } from '@kite-trail/core/sound/phrases';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { silencesIn, speedAt } from '@kite-trail/core/trail/watch-pace';
import { computed, ref, watch, type Ref } from 'vue';
import type { usePlayer } from '../../playback/use-player';
import type { ProgrammePlayer } from '../../playback/programme-player';

export const VOICE_SPEEDS = [0.5, 0.75, 1, 1.25, 1.5, 2] as const;
export const INK_SPEEDS = [0.25, 0.5, 1, 2, 4, 8] as const;
/** How many times as long pauses are. */
export const PAUSES = [1, 2, 4] as const;

/** How fast it goes: speech, silent writing, and the pauses in between; and a part that is repeated. */
export function usePace(
  player: ReturnType<typeof usePlayer<ProgrammePlayer>>,
  timeline: Ref<Timeline | null>,
  loudness: Ref<Uint8Array>,
  hasSound: Ref<boolean>,
) {
  const voice = ref(1);
  /** `null`: as fast as speech. */
  const ink = ref<number | null>(null);
  const pauses = ref(1);
  /** The part that is repeated, from its beginning on; its end is not said yet where it is `null`. */
  const repeated = ref<{ from: number; to: number | null } | null>(null);

  const quiet = computed(() => {
    // Where somebody speaks, but it is not known when, nothing is taken for a pause.
    const isKnown = loudness.value.length > 0 || !hasSound.value;
    return timeline.value && isKnown ? quietIn(loudness.value, timeline.value.lengthSamples) : [];
  });
  const silences = computed(() => timeline.value && silencesIn(timeline.value.trail, quiet.value));
  const speed = computed(() => {
    if (!silences.value) return voice.value;
    const pace = { voice: voice.value, ink: ink.value ?? voice.value, pauses: pauses.value };
    return speedAt(silences.value, pace, player.samples.value);
  });

  watch(speed, player.setRate);
  watch(player.samples, (now) => {
    const { from, to } = repeated.value ?? {};
    if (from !== undefined && to && now >= to && player.playing.value) player.seek(from);
  });

  /** Where the part begins, where it ends, and no more: one after the other. */
  function markRepeated(): void {
    const now = player.samples.value;
    const open = repeated.value;
    if (!open) repeated.value = { from: now, to: null };
    else if (open.to !== null) repeated.value = null;
    else repeated.value = now === open.from ? null : { from: Math.min(open.from, now), to: Math.max(open.from, now) };
  }

  return { voice, ink, pauses, repeated, markRepeated, phraseAt: (at: number) => phraseStart(quiet.value, at) };
}

export type Pace = ReturnType<typeof usePace>;
