import type { Surface } from './surface';

/** Digits as single strokes in a box 4 wide and 6 high, as draughtsmen letter them. */
const STROKES: Record<string, readonly (readonly number[])[]> = {
  '0': [[1, 0, 3, 0, 4, 1, 4, 5, 3, 6, 1, 6, 0, 5, 0, 1, 1, 0]],
  '1': [[0.6, 1.4, 2.2, 0, 2.2, 6]],
  '2': [[0, 1.2, 1, 0, 3, 0, 4, 1.2, 4, 2.2, 0, 6, 4, 6]],
  '3': [
    [0, 0.8, 1, 0, 3, 0, 4, 1, 4, 2, 3, 2.9, 1.6, 2.9],
    [3, 2.9, 4, 3.8, 4, 5, 3, 6, 1, 6, 0, 5.2],
  ],
  '4': [[3, 6, 3, 0, 0, 4.2, 4, 4.2]],
  '5': [[3.8, 0, 0.4, 0, 0.2, 2.7, 1.2, 2.2, 2.8, 2.2, 4, 3.2, 4, 4.9, 2.9, 6, 1, 6, 0, 5.2]],
  '6': [[3.6, 0.6, 2.8, 0, 1.2, 0, 0, 1.6, 0, 5, 1, 6, 3, 6, 4, 5, 4, 3.6, 3, 2.6, 1, 2.6, 0, 3.6]],
  '7': [[0, 0, 4, 0, 1.4, 6]],
  '8': [
    [
      1.2, 2.8, 0.3, 2, 0.3, 0.9, 1.2, 0, 2.8, 0, 3.7, 0.9, 3.7, 2, 2.8, 2.8, 1.2, 2.8, 0, 3.8, 0, 5, 1, 6, 3, 6, 4, 5,
      4, 3.8, 2.8, 2.8,
    ],
  ],
  '9': [[4, 2.4, 3, 3.4, 1, 3.4, 0, 2.4, 0, 1, 1, 0, 3, 0, 4, 1, 4, 4.4, 2.8, 6, 1.2, 6, 0.4, 5.4]],
  '.': [[1.8, 5.6, 2.2, 6]],
  '-': [[0.8, 3, 3.2, 3]],
};
const [BOX_WIDTH, BOX_HEIGHT, ADVANCE] = [4, 6, 5.4];

/** Paints a number with its middle at a place. @param flip −1 where the surface is mirrored, so that it is legible */
export function paintNumber(
  surface: Surface,
  text: string,
  xPt: number,
  yPt: number,
  sizePt: number,
  color: string,
  flip: number,
): void {
  const unit = sizePt / BOX_HEIGHT;
  const width = (text.length - 1) * ADVANCE + BOX_WIDTH;
  surface.save();
  surface.transform(unit * flip, 0, 0, unit, xPt, yPt);
  surface.transform(1, 0, 0, 1, -width / 2, -BOX_HEIGHT / 2);
  surface.strokeStyle = color;
  surface.lineWidth = 0.75;
  surface.lineCap = 'round';
  surface.lineJoin = 'round';
  surface.beginPath();
  Array.from(text, (digit, n) => {
    for (const stroke of STROKES[digit] ?? []) {
      for (let i = 0; i < stroke.length; i += 2) {
        const [x, y] = [stroke[i] + n * ADVANCE, stroke[i + 1]];
        if (i === 0) surface.moveTo(x, y);
        else surface.lineTo(x, y);
      }
    }
  });
  surface.stroke();
  surface.restore();
}
