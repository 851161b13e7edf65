import { secondsToSamples } from '@kite-trail/core/trail/clock';

const STEP_SECONDS: Record<string, number> = {
  ArrowLeft: -1,
  ArrowRight: 1,
  ArrowDown: -0.1,
  ArrowUp: 0.1,
  PageDown: -10,
  PageUp: 10,
};

/** Arrow keys move by a second, up and down by a tenth, page keys by ten. @returns `null` for other keys */
export function timeByKey({ key }: KeyboardEvent, fromSamples: number, lengthSamples: number): number | null {
  if (key === 'Home') return 0;
  if (key === 'End') return lengthSamples;
  const stepped = STEP_SECONDS[key];
  return stepped === undefined ? null : fromSamples + secondsToSamples(stepped);
}
