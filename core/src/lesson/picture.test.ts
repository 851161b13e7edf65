import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { picture } from '../testing/arbitraries';
import { frameBounds } from './frame';
import { cropped, cutAlong, fitted, placeInPicture, storable } from './picture';
import { NEW, WHOLE, type Picture } from './piece';
import { pieceAt } from './touch';

const fraction = fc.double({ min: 0, max: 1, noNaN: true });
const plain = (frame: Partial<Picture['frame']> = {}): Picture => ({
  ...NEW,
  kind: 'picture',
  id: 'chart' as never,
  z: 1,
  asset: 'a'.repeat(64) as never,
  frame: { xPt: 200, yPt: 100, widthPt: 200, heightPt: 100, turnRad: 0, mirrored: false, ...frame },
  crop: WHOLE,
  cutOut: new Float32Array(),
});

describe('a picture on a page', () => {
  it('stays as it is once it is storable', () => {
    fc.assert(fc.property(picture, (one) => void expect(storable(one)).toEqual(one)));
  });

  it('knows where its corners are, turned and mirrored', () => {
    expect(placeInPicture(plain(), { xPt: 100, yPt: 50 })).toEqual({ x: 0, y: 0 });
    expect(placeInPicture(plain({ mirrored: true }), { xPt: 300, yPt: 50 })).toEqual({ x: 0, y: 0 });
    // A quarter turn clockwise brings the top left corner to the top right.
    const corner = placeInPicture(plain({ turnRad: Math.PI / 2 }), { xPt: 250, yPt: 0 });
    expect(corner.x).toBeCloseTo(0);
    expect(corner.y).toBeCloseTo(0);
  });

  it('shows each bit of itself at the same place of the page, however it is cropped', () => {
    fc.assert(
      fc.property(picture, fraction, fraction, (one, x, y) => {
        fc.pre(one.frame.widthPt > 40 && one.frame.heightPt > 40);
        const smaller = cropped(one, {
          left: one.crop.left + 0.1,
          top: one.crop.top + 0.05,
          right: one.crop.right - 0.1,
          bottom: one.crop.bottom - 0.2,
        });
        const at = { xPt: one.frame.xPt + (x - 0.5) * 50, yPt: one.frame.yPt + (y - 0.5) * 50 };
        const [before, after] = [placeInPicture(one, at), placeInPicture(smaller, at)];
        // Within a grid step of the page, 1/32 pt, on either side.
        expect(Math.abs(after.x - before.x) * one.frame.widthPt).toBeLessThan(0.15);
        expect(Math.abs(after.y - before.y) * one.frame.heightPt).toBeLessThan(0.15);
      }),
    );
  });

  it('is only where it was not cut away', () => {
    const triangle = [
      { xPt: 100, yPt: 50 },
      { xPt: 300, yPt: 50 },
      { xPt: 100, yPt: 150 },
    ];
    const cut = cutAlong(plain(), triangle);
    expect(pieceAt([cut], { xPt: 110, yPt: 60 }, 0)).toBe(cut);
    expect(pieceAt([cut], { xPt: 290, yPt: 140 }, 0)).toBeUndefined();
    const halved = cropped(plain(), { left: 0, top: 0, right: 0.5, bottom: 1 });
    expect(pieceAt([halved], { xPt: 150, yPt: 100 }, 0)).toBe(halved);
    expect(pieceAt([halved], { xPt: 250, yPt: 100 }, 0)).toBeUndefined();
  });

  it('is not cut out along a line that holds nothing', () => {
    const one = plain();
    expect(cutAlong(one, [{ xPt: 150, yPt: 80 }])).toBe(one);
    expect(cutAlong(one, [])).toBe(one);
  });

  it('fits a page whole, turned as it may be', () => {
    const page = { left: -100, top: 0, right: 860, bottom: 540 };
    fc.assert(
      fc.property(picture, (one) => {
        const bounds = frameBounds(fitted(one, page, 'page').frame);
        expect(bounds.left).toBeGreaterThan(page.left - 0.5);
        expect(bounds.right).toBeLessThan(page.right + 0.5);
        expect(bounds.top).toBeGreaterThan(page.top - 0.5);
        expect(bounds.bottom).toBeLessThan(page.bottom + 0.5);
      }),
    );
    expect(frameBounds(fitted(plain(), page, 'width').frame)).toMatchObject({ left: -100, right: 860 });
  });
});
