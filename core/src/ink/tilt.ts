/**
 * How a pen leans as it writes, point by point: to the right and towards the writer, in whole degrees from upright (`tiltX` and
 * `tiltY` of W3C Pointer Events, level 3).
 */
export interface Tilt {
  readonly xDeg: Int8Array;
  readonly yDeg: Int8Array;
}

/** A pen that leans this far lies on the page. */
export const MOST_TILT_DEG = 90;

const DEG = 180 / Math.PI;

/**
 * A pen's lean from where it points: the conversion of W3C Pointer Events, level 3 ("Converting between tiltX / tiltY and altitudeAngle /
 * azimuthAngle").
 * @param altitudeDeg from the page, 0 to 90
 * @param azimuthDeg clockwise from the right, as seen from above
 * @returns degrees, not rounded
 */
export function tiltOf(altitudeDeg: number, azimuthDeg: number): { xDeg: number; yDeg: number } {
  const steepness = Math.tan(Math.min(MOST_TILT_DEG, Math.max(0, altitudeDeg)) / DEG);
  // `atan2` also knows the pen that lies on the page, whose steepness is 0.
  const lean = (part: number): number => (Math.abs(part) < 1e-9 ? 0 : Math.atan2(part, steepness) * DEG);
  return { xDeg: lean(Math.cos(azimuthDeg / DEG)), yDeg: lean(Math.sin(azimuthDeg / DEG)) };
}
