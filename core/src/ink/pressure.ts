/**
 * How broad a pen writes for how hard it is pressed: a power curve, from soft (a light hand writes broadly) to hard.
 * @param pressure as the device tells it, 0 to 1
 * @param hardness 0 soft, 0.5 as the device tells it, 1 hard
 */
export const feltPressure = (pressure: number, hardness: number): number =>
  Math.min(1, Math.max(0, pressure)) ** (4 ** (hardness - 0.5));

const MOST_TILT_DEG = 60;
/** A pencil that is held upright writes like any; on its side, it writes so much more broadly. */
const TILT_ADDS = 0.5;

/** A pencil's pressure, with what its tilt adds. @param tiltX, tiltY degrees from upright (W3C Pointer Events) */
export function tiltedPressure(pressure: number, tiltX: number, tiltY: number): number {
  const share = Math.min(1, Math.hypot(tiltX, tiltY) / MOST_TILT_DEG);
  return Math.min(1, pressure + TILT_ADDS * share * share);
}
