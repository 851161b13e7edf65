import { CLOCK_HZ } from '../trail/clock';

/** Sound fades in and out over this long at a splice, so that nothing clicks (5 to 10 ms is common practice). */
export const FADE_SAMPLES = Math.round(0.008 * CLOCK_HZ);

/** How loud a sound is part of the way through its fade in: a raised cosine, from 0 to 1. */
export const fadeGain = (through: number): number => 0.5 - 0.5 * Math.cos(Math.PI * Math.min(1, Math.max(0, through)));
