import type { PageId } from '@kite-trail/core/lesson/ids';
import type { Level } from '@kite-trail/core/sound/level';
import { onScopeDispose, ref } from 'vue';
import type { TakeRecorder } from '../capture/take-recorder';
import type { NoVoice } from '../capture/voice-watch';
import { ofLesson } from '../lesson/lesson-scope';
import { useNotices } from '../lesson/notices';
import { useRecordingNow } from '../lesson/recording-now';
import { Guards, NO_VOICE } from './guards';
import { PageTime } from './page-time';

const TICK_MS = 100;
const METER_FALL_DB = 1.5;
const SILENT_DB = -90;

/** What is read while recording: how long, how loud, and whether all is well. */
export const useMeters = ofLesson(() => {
  const now = useRecordingNow();
  const elapsedSamples = ref(0);
  /** How much of it was on the page that is shown. */
  const pageSamples = ref(0);
  const peakDb = ref(SILENT_DB);
  /** What is wrong with what comes from the microphone just now. */
  const noVoice = ref<NoVoice | null>(null);
  useNotices().tellWhile('news', () => noVoice.value && NO_VOICE[noVoice.value]);
  let ticking = 0;
  let guards: Guards | null = null;
  let pageTime: PageTime | null = null;

  /**
   * Reads a recorder from now on.
   * @param interrupted is told why the recording has to pause
   */
  function open(recorder: TakeRecorder, hearsMicrophone: boolean, interrupted: (why: string) => void): void {
    guards = new Guards(hearsMicrophone, performance.now());
    ticking = window.setInterval(() => tick(recorder, interrupted), TICK_MS);
  }

  /** It is recorded from now on. @param page the one that is shown */
  function begin(page: PageId): void {
    pageTime = new PageTime(page);
    elapsedSamples.value = pageSamples.value = 0;
  }

  function tick({ lengthSamples }: TakeRecorder, interrupted: (why: string) => void): void {
    elapsedSamples.value = lengthSamples;
    pageSamples.value = pageTime?.shownFor(lengthSamples) ?? 0;
    if (now.state !== 'recording') return guards?.rest();
    const nowMs = performance.now();
    const why = guards?.tick(lengthSamples, Date.now(), nowMs);
    if (why) return interrupted(why);
    noVoice.value = guards?.noVoice(nowMs) ?? null;
  }

  function hear(level: Level): void {
    guards?.hear(level, performance.now());
    // The meter falls slowly, so that it can be read.
    peakDb.value = Math.max(level.peakDb, peakDb.value - METER_FALL_DB);
  }

  const turned = (page: PageId, atSamples: number): void => pageTime?.turned(page, atSamples);
  const goOn = (): void => guards?.goOn(performance.now());
  /** What was wrong with the voice of a take that ends now. */
  const noVoiceInAll = (): NoVoice | null => guards?.noVoiceInAll(performance.now()) ?? null;

  /** @param atSamples how long the take is by then */
  function rest(atSamples: number): void {
    noVoice.value = null;
    elapsedSamples.value = atSamples;
    peakDb.value = SILENT_DB;
  }

  function close(): void {
    clearInterval(ticking);
    guards = pageTime = null;
    rest(0);
  }
  onScopeDispose(close);

  return { elapsedSamples, pageSamples, peakDb, noVoice, open, begin, hear, turned, rest, goOn, noVoiceInAll, close };
});
