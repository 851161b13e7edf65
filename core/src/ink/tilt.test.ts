import { describe, expect, it } from 'vitest';
import { tiltOf } from './tilt';

describe('how a pen leans', () => {
  // The conversion's own cases (W3C Pointer Events, level 3), and a few by hand: tan(tiltX) = cos(azimuth) / tan(altitude).
  it.each([
    [90, 0, 0, 0],
    [90, 137, 0, 0],
    [45, 0, 45, 0],
    [45, 90, 0, 45],
    [45, 180, -45, 0],
    [45, 270, 0, -45],
    [0, 0, 90, 0],
    [0, 45, 90, 90],
    [0, 225, -90, -90],
    [60, 45, 22.2077, 22.2077],
  ])('at altitude %s° and azimuth %s° is %s° and %s°', (altitude, azimuth, x, y) => {
    const { xDeg, yDeg } = tiltOf(altitude, azimuth);
    expect(xDeg).toBeCloseTo(x, 3);
    expect(yDeg).toBeCloseTo(y, 3);
  });
});
