import { frameBounds, placeInFrame, storableFrame } from './frame';
import { storableOpacity, type Crop, type Picture } from './piece';
import { isWithin } from './polygon';
import type { RectPt } from './rect';

/** Fractions of a picture are kept in steps of a 65,535th. */
export const FRACTION_STEPS = 65_535;

const snapFraction = (fraction: number) =>
  Math.round(Math.min(1, Math.max(0, fraction)) * FRACTION_STEPS) / FRACTION_STEPS;

/**
 * The picture with all values on the storage grid, so that what is shown now is to the bit what is read back later.
 * Every new or altered picture goes through here.
 */
export function storable(picture: Picture): Picture {
  const { frame, crop } = picture;
  return {
    ...picture,
    frame: storableFrame(frame),
    crop: {
      left: snapFraction(crop.left),
      top: snapFraction(crop.top),
      right: snapFraction(crop.right),
      bottom: snapFraction(crop.bottom),
    },
    cutOut: picture.cutOut.map(snapFraction),
    opacity: storableOpacity(picture.opacity),
  };
}

/** A place on the page as fractions of the whole picture: 0, 0 at its top left corner, 1, 1 at its bottom right. */
export function placeInPicture({ frame, crop }: Picture, at: { xPt: number; yPt: number }): { x: number; y: number } {
  const { xPt, yPt } = placeInFrame(frame, at);
  return {
    x: crop.left + (xPt / frame.widthPt + 0.5) * (crop.right - crop.left),
    y: crop.top + (yPt / frame.heightPt + 0.5) * (crop.bottom - crop.top),
  };
}

/** The picture with another part of it shown, every bit of which stays where it was on the page. */
export function cropped(picture: Picture, crop: Crop): Picture {
  const { frame, crop: was } = picture;
  const fullWidthPt = frame.widthPt / (was.right - was.left);
  const fullHeightPt = frame.heightPt / (was.bottom - was.top);
  const along = ((crop.left + crop.right - was.left - was.right) / 2) * fullWidthPt * (frame.mirrored ? -1 : 1);
  const across = ((crop.top + crop.bottom - was.top - was.bottom) / 2) * fullHeightPt;
  const [cos, sin] = [Math.cos(frame.turnRad), Math.sin(frame.turnRad)];
  return storable({
    ...picture,
    crop,
    frame: {
      ...frame,
      xPt: frame.xPt + along * cos - across * sin,
      yPt: frame.yPt + along * sin + across * cos,
      widthPt: (crop.right - crop.left) * fullWidthPt,
      heightPt: (crop.bottom - crop.top) * fullHeightPt,
    },
  });
}

/** The picture cut out along a closed line drawn on the page, and cropped to what is left. */
export function cutAlong(picture: Picture, line: readonly { xPt: number; yPt: number }[]): Picture {
  const places = line.map((at) => placeInPicture(picture, at));
  const bounded = (value: number, from: number, to: number) => Math.min(to, Math.max(from, value));
  const xs = places.map(({ x }) => bounded(x, picture.crop.left, picture.crop.right));
  const ys = places.map(({ y }) => bounded(y, picture.crop.top, picture.crop.bottom));
  const crop = { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
  if (crop.right - crop.left < 0.005 || crop.bottom - crop.top < 0.005) return picture;
  const cutOut = Float32Array.from(places.flatMap((_, i) => [xs[i], ys[i]]));
  return cropped({ ...picture, cutOut }, crop);
}

/** Where a picture fits into a rectangle whole, or fills its width or height, its middle in the rectangle's. */
export function fitted(picture: Picture, into: RectPt, by: 'width' | 'height' | 'page'): Picture {
  const bounds = frameBounds({ ...picture.frame, xPt: 0, yPt: 0 });
  const byWidth = (into.right - into.left) / (bounds.right - bounds.left);
  const byHeight = (into.bottom - into.top) / (bounds.bottom - bounds.top);
  const scale = by === 'width' ? byWidth : by === 'height' ? byHeight : Math.min(byWidth, byHeight);
  return storable({
    ...picture,
    frame: {
      ...picture.frame,
      xPt: (into.left + into.right) / 2,
      yPt: (into.top + into.bottom) / 2,
      widthPt: picture.frame.widthPt * scale,
      heightPt: picture.frame.heightPt * scale,
    },
  });
}

/** Whether a picture shows something at a place of the page. What was cropped or cut away is not there. */
export function pictureShowsAt(picture: Picture, at: { xPt: number; yPt: number }): boolean {
  const { x, y } = placeInPicture(picture, at);
  const { crop, cutOut } = picture;
  if (x < crop.left || x > crop.right || y < crop.top || y > crop.bottom) return false;
  return cutOut.length === 0 || isWithin(cutOut, x, y);
}
