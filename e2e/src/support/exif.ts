import { createCanvas } from '@napi-rs/canvas';

export const QUADRANTS = { width: 400, height: 200 };
const COLORS = [
  [200, 30, 30],
  [30, 160, 60],
  [40, 60, 200],
  [230, 200, 40],
];

/** Which quadrant of the upright picture a place lies in: red, green, blue, yellow, row by row. */
const colorOf = (x: number, y: number) =>
  COLORS[(y < QUADRANTS.height / 2 ? 0 : 2) + (x < QUADRANTS.width / 2 ? 0 : 1)];

/**
 * What side of the upright picture the stored first row and first column are, for each orientation (TIFF 6.0, section
 * 8, tag 274; the same in EXIF, CIPA DC-008, section 4.6.4): the upright place of a stored row and column.
 */
const UPRIGHT: Record<number, (row: number, column: number) => [x: number, y: number]> = {
  1: (row, column) => [column, row],
  2: (row, column) => [QUADRANTS.width - 1 - column, row],
  3: (row, column) => [QUADRANTS.width - 1 - column, QUADRANTS.height - 1 - row],
  4: (row, column) => [column, QUADRANTS.height - 1 - row],
  5: (row, column) => [row, column],
  6: (row, column) => [QUADRANTS.width - 1 - row, column],
  7: (row, column) => [QUADRANTS.width - 1 - row, QUADRANTS.height - 1 - column],
  8: (row, column) => [row, QUADRANTS.height - 1 - column],
};

/** A JPEG of four coloured quadrants that a camera held in one of the eight ways would have stored. */
export function jpegHeld(orientation: number): Buffer {
  const turned = orientation >= 5;
  const [width, height] = turned ? [QUADRANTS.height, QUADRANTS.width] : [QUADRANTS.width, QUADRANTS.height];
  const canvas = createCanvas(width, height);
  const surface = canvas.getContext('2d');
  const image = surface.createImageData(width, height);
  for (let row = 0; row < height; row++) {
    for (let column = 0; column < width; column++) {
      const [r, g, b] = colorOf(...UPRIGHT[orientation](row, column));
      image.data.set([r, g, b, 255], (row * width + column) * 4);
    }
  }
  surface.putImageData(image, 0, 0);
  const jpeg = canvas.toBuffer('image/jpeg');
  return Buffer.concat([jpeg.subarray(0, 2), exifBlock(orientation), jpeg.subarray(2)]);
}

/** An APP1 segment with one big-endian TIFF directory of one entry: the orientation. */
function exifBlock(orientation: number): Buffer {
  const tiff = Buffer.from([
    ...[0x4d, 0x4d, 0, 42, 0, 0, 0, 8],
    ...[0, 1],
    ...[0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, orientation, 0, 0],
    ...[0, 0, 0, 0],
  ]);
  const content = Buffer.concat([Buffer.from('Exif\0\0', 'latin1'), tiff]);
  const length = content.length + 2;
  return Buffer.concat([Buffer.from([0xff, 0xe1, length >> 8, length & 255]), content]);
}
