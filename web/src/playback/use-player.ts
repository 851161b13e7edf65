import { onScopeDispose, ref, shallowRef } from 'vue';
import type { Player } from './player';

/** A player that a screen can watch and steer. */
export function usePlayer<P extends Player>() {
  const player = shallowRef<P | null>(null);
  const samples = ref(0);
  const playing = ref(false);
  const rate = ref(1);

  /** Lets another player play from now on. The playhead stays, as far as there is something to play there. */
  function load(fresh: P): void {
    player.value?.dispose();
    fresh.onTick = (now) => (samples.value = now);
    fresh.onPlaying = (now) => (playing.value = now);
    fresh.setRate(rate.value);
    playing.value = false;
    player.value = fresh;
    fresh.seek(samples.value);
  }

  function setRate(now: number): void {
    rate.value = now;
    player.value?.setRate(now);
  }

  const seek = (to: number) => player.value?.seek(to);
  const toggle = () => (playing.value ? player.value?.pause() : void player.value?.play());
  const play = () => void player.value?.play();
  const pause = () => player.value?.pause();

  onScopeDispose(() => player.value?.dispose());

  return { player, samples, playing, rate, load, seek, toggle, play, pause, setRate };
}
