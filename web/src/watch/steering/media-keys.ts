import { samplesToSeconds, secondsToSamples } from '@kite-trail/core/trail/clock';
import { watch, type Ref } from 'vue';
import { BACK_SECONDS } from './watch-keys';

interface Steered {
  title: Ref<string>;
  playing: Ref<boolean>;
  toggle(): void;
  skip(seconds: number): void;
  seek(samples: number): void;
}

/** Lets the keyboard's media keys, headphones and the lock screen steer what plays (W3C Media Session). */
export function useMediaKeys({ title, playing, toggle, skip, seek }: Steered): void {
  const session = 'mediaSession' in navigator ? navigator.mediaSession : null;
  if (!session) return;
  watch(title, (now) => (session.metadata = new MediaMetadata({ title: now })));
  watch(playing, (is) => (session.playbackState = is ? 'playing' : 'paused'));
  const actions: [MediaSessionAction, (details: MediaSessionActionDetails) => void][] = [
    ['play', () => !playing.value && toggle()],
    ['pause', () => playing.value && toggle()],
    ['seekbackward', ({ seekOffset }) => skip(-(seekOffset ?? BACK_SECONDS))],
    ['seekforward', ({ seekOffset }) => skip(seekOffset ?? BACK_SECONDS)],
    ['seekto', ({ seekTime }) => seek(secondsToSamples(seekTime ?? samplesToSeconds(0)))],
  ];
  for (const [action, run] of actions) {
    try {
      session.setActionHandler(action, run);
    } catch {
      // This browser has no such key.
    }
  }
}
