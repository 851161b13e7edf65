import { watch, type Ref } from 'vue';
import type { ProgrammePlayer } from '../../playback/programme-player';
import type { usePlayer } from '../../playback/use-player';
import { ask } from '../opening/ask';
import { keepPlace } from '../opening/kept-place';
import { isOfSchool } from '../opening/load';
import { passFor } from '../opening/passcode';
import { useMediaKeys } from './media-keys';
import { useWatchKeys, type WatchActions } from './watch-keys';

/** So often it is kept how far somebody came. */
const KEPT_EVERY_MS = 2000;

interface Watching {
  token: string;
  player: ReturnType<typeof usePlayer<ProgrammePlayer>>;
  length: Ref<number>;
  title: Ref<string>;
  goesOnAt: Ref<number>;
  keys: WatchActions;
}

/** What goes on while somebody watches: keys of all kinds are heard, and it is kept how far they came. */
export function useWatching({ token, player, length, title, goesOnAt, keys }: Watching): void {
  let keptMs = 0;

  watch(player.samples, (atSamples) => {
    const nowMs = Date.now();
    if (length.value === 0 || atSamples === 0 || nowMs - keptMs < KEPT_EVERY_MS) return;
    keptMs = nowMs;
    keepPlace(token, { atSamples, lengthSamples: length.value, seenMs: nowMs });
  });
  // That somebody has begun is told once, and nothing else of them; without a network it is not told.
  const stop = watch(player.playing, () => {
    stop();
    if (isOfSchool(token)) ask(`/api/watch/${token}/watched${passFor(token)}`, { method: 'POST' }).catch(() => {});
  });
  watch(player.playing, (is) => {
    if (is) goesOnAt.value = 0;
    // Where it stops is kept at once: the window may be closed next.
    else if (length.value > 0)
      keepPlace(token, { atSamples: player.samples.value, lengthSamples: length.value, seenMs: Date.now() });
  });

  useWatchKeys(keys);
  useMediaKeys({ title, playing: player.playing, toggle: keys.toggle, skip: keys.skip, seek: player.seek });
}
