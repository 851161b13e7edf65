import { encodePieces } from '@kite-trail/core/formats/marks-coding';
import type { InkTrace } from '@kite-trail/core/formats/inkml/ink-file';
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
    const byCanvas = new Map<string | null, InkTrace[]>();
    for (const trace of readInkMl(source).traces) {
      const own = byCanvas.get(trace.canvas);
      if (own) own.push(trace);
      else byCanvas.set(trace.canvas, [trace]);
    }
    const newId = () => nanoid(12) as PieceId;
    return [...byCanvas.values()].map((own) => encodePieces(strokesOfInk(own, { ...bringing, newId })));
  },
};
export type InkMl = typeof inkMl;

expose(inkMl);
