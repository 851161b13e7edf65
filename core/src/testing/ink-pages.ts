import fc from 'fast-check';
import { InkPoints, MOST_PT } from '../ink/points';
import { PEN_KINDS } from '../lesson/piece';
import type { WrittenInk, WrittenStroke } from '../formats/inkml/write-inkml';

const place = fc.double({ min: -MOST_PT, max: MOST_PT, noNaN: true });
const sample = fc.record({
  xPt: place,
  yPt: place,
  pressure: fc.double({ min: 0, max: 1, noNaN: true }),
  sinceMs: fc.integer({ min: 0, max: 3_600_000 }),
  tiltXDeg: fc.option(fc.integer({ min: -90, max: 90 }), { nil: undefined, freq: 1 }),
  tiltYDeg: fc.option(fc.integer({ min: -90, max: 90 }), { nil: undefined, freq: 1 }),
});
const stroke: fc.Arbitrary<WrittenStroke> = fc.record({
  pen: fc.record({
    kind: fc.constantFrom(...PEN_KINDS),
    color: fc.integer({ min: 0, max: 0xffffff }).map((rgb) => `#${rgb.toString(16).padStart(6, '0')}`),
    widthPt: fc.integer({ min: 1, max: 3000 }).map((steps) => steps / 32),
  }),
  opacity: fc.integer({ min: 0, max: 255 }).map((steps) => steps / 255),
  points: fc
    .array(sample, { minLength: 1, maxLength: 40 })
    .map((samples) => InkPoints.from(samples.map((one, i) => ({ ...one, sinceMs: i === 0 ? 0 : one.sinceMs })))),
  matrix: fc.constant(null),
  atMs: fc.option(fc.integer({ min: 0, max: 1e9 }).map((samples) => samples / 48)),
});
/** Pages of ink as they go out, also such as no board would make. */
export const inkPage: fc.Arbitrary<WrittenInk> = fc.record({
  title: fc.string({ unit: 'binary' }),
  rect: fc.record({ left: place, top: place, right: place, bottom: place }),
  strokes: fc.array(stroke, { maxLength: 6 }),
});
