import { encodePieces } from '@kite-trail/core/formats/marks-coding';
import { readInkMl } from '@kite-trail/core/formats/inkml/read-inkml';
import { byCanvas, strokesOfInk, type Bringing, type BroughtInk } from '@kite-trail/core/formats/inkml/strokes-of-ink';
import { writeInkMl } from '@kite-trail/core/formats/inkml/write-inkml';
import type { PieceId } from '@kite-trail/core/lesson/ids';
import { expose } from 'comlink';
import { nanoid } from 'nanoid';

/** The ink of a canvas: its strokes in the bytes of `formats/marks-coding`, and when each began. */
interface BroughtCanvas extends Omit<BroughtInk, 'strokes'> {
  pieces: Uint8Array;
}

/** Writes and reads InkML, away from the page: a full lesson has hundreds of thousands of points. */
const inkMl = {
  write: writeInkMl,
  read(source: string, bringing: Omit<Bringing, 'newId'>): BroughtCanvas[] {
    const newId = () => nanoid(12) as PieceId;
    return byCanvas(readInkMl(source).traces).map((own) => {
      const { strokes, atMs } = strokesOfInk(own, { ...bringing, newId });
      return { pieces: encodePieces(strokes), atMs };
    });
  },
};
export type InkMl = typeof inkMl;

expose(inkMl);
