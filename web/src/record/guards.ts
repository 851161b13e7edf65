import type { Level } from '@kite-trail/core/sound/level';
import { SleepWatch, type Interruption } from '../capture/sleep-watch';
import { VoiceWatch, type NoVoice } from '../capture/voice-watch';

/** What is told once a take has ended. */
export const WITHOUT_VOICE: Record<NoVoice, string> = {
  silence:
    'For some seconds or more nothing came from the microphone, not even noise. Listen to the take before you go on.',
  noise: 'Nothing but noise came from the microphone all the time. If you spoke, check it before you go on.',
};
/** What is told while it is so. */
export const NO_VOICE: Record<NoVoice, string> = {
  silence:
    'Nothing comes from the microphone, not even noise. It may be switched off, or another one is meant: pause, and check it.',
  noise:
    'Nothing but noise has come from the microphone so far. If you are speaking, another one may be meant: pause, and check it.',
};

/** Watches over a recording: whether the device sleeps, its sound stops, or no voice comes in. */
export class Guards {
  private readonly sleep = new SleepWatch();
  private readonly voice = new VoiceWatch();

  /** @param hearsMicrophone otherwise no voice is missed */
  constructor(
    private readonly hearsMicrophone: boolean,
    nowMs: number,
  ) {
    this.voice.begin(nowMs);
  }

  hear(level: Level, nowMs: number): void {
    this.voice.hear(level, nowMs);
  }

  /** @returns why the recording has to pause, in words for the teacher */
  tick(samples: number, wallMs: number, steadyMs: number): string | null {
    const interruption = this.sleep.tick({ wallMs, steadyMs, samples });
    return interruption && whyOf(interruption);
  }

  /** The recording is paused: what happens meanwhile is of no account. */
  rest(): void {
    this.sleep.rest();
  }

  goOn(nowMs: number): void {
    this.voice.goOn(nowMs);
  }

  noVoice(nowMs: number): NoVoice | null {
    return this.hearsMicrophone ? this.voice.found(nowMs) : null;
  }

  /** What was wrong with the voice of a take that ends now. */
  noVoiceInAll(nowMs: number): NoVoice | null {
    return this.hearsMicrophone ? this.voice.foundInAll(nowMs) : null;
  }
}

function whyOf(interruption: Interruption): string {
  if (interruption.kind === 'no-sound') {
    return 'No sound has come in for some seconds, so the recording is paused. Resume, or stop: all so far is kept.';
  }
  const seconds = Math.round(interruption.forMs / 1000);
  return `This device slept for ${seconds} seconds, so the recording is paused. All until then is kept; resume when you are ready.`;
}
