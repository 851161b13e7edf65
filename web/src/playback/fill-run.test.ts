import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FillRun } from './fill-run';

const WIDTH = 60;

/** A row of pixels for each height, on which boxes are filled. */
class Pixels {
  fillStyle = '';
  filled = 0;
  readonly rows = new Map<string, string[]>();

  fillRect(x: number, top: number, width: number, height: number) {
    this.filled++;
    for (let y = top; y < top + height; y++) {
      const row = this.rows.get(`${y}`) ?? new Array<string>(WIDTH).fill('');
      row.fill(this.fillStyle, x, x + width);
      this.rows.set(`${y}`, row);
    }
  }
}

const surfaceOf = (pixels: Pixels) => pixels as unknown as CanvasRenderingContext2D;

describe('a run of boxes', () => {
  const box = fc.record({
    color: fc.constantFrom('red', 'teal'),
    from: fc.nat(WIDTH - 8),
    width: fc.integer({ min: 1, max: 8 }),
    height: fc.constantFrom(2, 4),
  });

  it('looks like the boxes filled one by one, whatever they are', () => {
    fc.assert(
      fc.property(fc.array(box, { maxLength: 30 }), fc.boolean(), (boxes, isInOrder) => {
        const wanted = new Pixels();
        const got = new Pixels();
        const run = new FillRun(surfaceOf(got));
        const order = isInOrder ? boxes.toSorted((a, b) => a.from - b.from) : boxes;
        for (const { color, from, width, height } of order) {
          wanted.fillStyle = color;
          wanted.fillRect(from, 0, width, height);
          run.add(color, from, from + width, 0, height);
        }
        run.end();
        expect(got.rows).toEqual(wanted.rows);
        expect(got.filled).toBeLessThanOrEqual(wanted.filled);
      }),
    );
  });

  it('fills those that touch and look alike as one', () => {
    const pixels = new Pixels();
    const run = new FillRun(surfaceOf(pixels));
    for (let x = 0; x < WIDTH; x++) run.add('teal', x, x + 1, 3, 5);
    run.end();
    run.end();
    expect(pixels.filled).toBe(1);
    expect(pixels.rows.get('3')).toEqual(new Array(WIDTH).fill('teal'));
  });
});
