import { encodePieces } from '@kite-trail/core/formats/marks-coding';
import { readInkMl } from '@kite-trail/core/formats/inkml/read-inkml';
import { strokesOfInk, type Bringing } from '@kite-trail/core/formats/inkml/strokes-of-ink';
import { writeInkMl } from '@kite-trail/core/formats/inkml/write-inkml';
import type { PieceId } from '@kite-trail/core/lesson/ids';
import { expose } from 'comlink';
import { nanoid } from 'nanoid';

/** Writes and reads InkML, away from the page: a full lesson has hundreds of thousands of points. */
const inkMl = {
  write: writeInkMl,
  /** @returns the strokes of each canvas, in the bytes of `formats/marks-coding` */
  read(source: string, bringing: Omit<Bringing, 'newId'>): Uint8Array[] {
    const { traces } = readInkMl(source);
    const canvases = [...new Set(traces.map(({ canvas }) => canvas))];
    return canvases.map((canvas) => {
      const own = traces.filter((trace) => trace.canvas === canvas);
      return encodePieces(strokesOfInk(own, { ...bringing, newId: () => nanoid(12) as PieceId }));
    });
  },
};
export type InkMl = typeof inkMl;

expose(inkMl);
