import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { z } from 'zod';
import type { SoundChoice, SoundSettings } from '../../capture/sound-source';
import { useKeptSetting } from '../../device/kept-setting';

const DELAYS_KEY = 'kite-trail-tap-delays';
const delays = z.record(z.string(), z.number().min(-1000).max(1000));

/** How this device records: with which microphone, how it is treated, and how far it is behind. */
export const useMicrophone = defineStore('microphone', () => {
  const choice = useKeptSetting<SoundChoice>('kite-trail-voice-from', 'microphone');
  const deviceId = useKeptSetting<string>('kite-trail-microphone', '');
  const echo = useKeptSetting<'on' | 'off'>('kite-trail-echo', 'off');
  const noise = useKeptSetting<'on' | 'off'>('kite-trail-noise', 'off');
  const countdown = useKeptSetting<'0' | '3' | '5'>('kite-trail-countdown', '3');
  /** How far each microphone is behind the taps it hears, where that was measured. */
  const delaysMs = ref(keptDelays());

  const delayMs = computed<number | null>(() => delaysMs.value[deviceId.value] ?? null);
  const settings = computed<SoundSettings>(() => ({
    choice: choice.value,
    deviceId: deviceId.value,
    echoCancellation: echo.value === 'on',
    noiseSuppression: noise.value === 'on',
    delayMs: delayMs.value ?? 0,
  }));

  /** Keeps the delay of the microphone that is chosen; `null` forgets it. */
  function keepDelay(ms: number | null): void {
    const others = Object.entries(delaysMs.value).filter(([id]) => id !== deviceId.value);
    delaysMs.value = Object.fromEntries(ms === null ? others : [...others, [deviceId.value, ms]]);
    localStorage.setItem(DELAYS_KEY, JSON.stringify(delaysMs.value));
  }

  return { choice, deviceId, echo, noise, countdown, delayMs, settings, keepDelay };
});

function keptDelays(): z.output<typeof delays> {
  try {
    return delays.parse(JSON.parse(localStorage.getItem(DELAYS_KEY) ?? '{}'));
  } catch {
    return {};
  }
}
