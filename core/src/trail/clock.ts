/** Every take's clock ticks in audio samples at this rate, whatever rate the device runs at. */
export const CLOCK_HZ = 48_000;
export const SAMPLES_PER_MS = CLOCK_HZ / 1000;

export const msToSamples = (ms: number): number => Math.round(ms * SAMPLES_PER_MS);
export const samplesToMs = (samples: number): number => samples / SAMPLES_PER_MS;
export const samplesToSeconds = (samples: number): number => samples / CLOCK_HZ;
export const secondsToSamples = (seconds: number): number => Math.round(seconds * CLOCK_HZ);
