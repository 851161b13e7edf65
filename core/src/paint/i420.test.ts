import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { evenRect, I420Picture } from './i420';

/** The equations of ITU-R BT.709-6, items 3.2 to 3.4, with 8-bit limited-range quantisation. */
function bt709(r: number, g: number, b: number): [number, number, number] {
  const [red, green, blue] = [r / 255, g / 255, b / 255];
  const y = 0.2126 * red + 0.7152 * green + 0.0722 * blue;
  return [16 + 219 * y, 128 + (224 * (blue - y)) / 1.8556, 128 + (224 * (red - y)) / 1.5748];
}

function converted(r: number, g: number, b: number): [number, number, number] {
  const picture = new I420Picture(2, 2);
  picture.put(Uint8ClampedArray.from([0, 1, 2, 3].flatMap(() => [r, g, b, 255])), { x: 0, y: 0, width: 2, height: 2 });
  return [picture.bytes[0], picture.bytes[4], picture.bytes[5]];
}

describe('the conversion to I420', () => {
  it('agrees with ITU-R BT.709-6 within one step for every colour', () => {
    fc.assert(
      fc.property(fc.nat(255), fc.nat(255), fc.nat(255), (r, g, b) => {
        bt709(r, g, b).forEach((value, i) => expect(Math.abs(converted(r, g, b)[i] - value)).toBeLessThanOrEqual(1));
      }),
    );
    expect(converted(255, 255, 255)).toEqual([235, 128, 128]);
    expect(converted(0, 0, 0)).toEqual([16, 128, 128]);
  });

  it('puts a part where it belongs and leaves the rest', () => {
    const picture = new I420Picture(8, 4);
    picture.bytes.fill(7);
    picture.put(new Uint8ClampedArray(2 * 2 * 4).fill(255), { x: 4, y: 2, width: 2, height: 2 });
    const luma = [...picture.bytes.subarray(0, 32)];
    luma.forEach((value, i) => {
      const inside = i % 8 >= 4 && i % 8 < 6 && i >= 16;
      expect(value).toBe(inside ? 235 : 7);
    });
    expect([...picture.bytes.subarray(32)].filter((value) => value === 128)).toHaveLength(2);
  });

  it('widens rectangles to even ones within the picture', () => {
    expect(evenRect({ x: 3, y: 1, width: 2, height: 3 }, { widthPx: 8, heightPx: 4 })).toEqual({
      x: 2,
      y: 0,
      width: 4,
      height: 4,
    });
  });
});
