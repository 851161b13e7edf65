import { decodePieces } from '@kite-trail/core/formats/marks-coding';
import type { Bringing, BroughtInk } from '@kite-trail/core/formats/inkml/strokes-of-ink';
import type { Stroke } from '@kite-trail/core/lesson/piece';
import { withInkMl } from '../workers/inkml';

const LARGEST_INKML_BYTES = 20 * 2 ** 20;
const NAMESPACE = 'http://www.w3.org/2003/InkML';

/** An InkML document is known by its namespace, which stands at its beginning, or by its name. */
export const isInkMl = async (file: File): Promise<boolean> =>
  /\.inkml$/i.test(file.name) || (await file.slice(0, 1024).text()).includes(NAMESPACE);

/** The ink of each canvas of an InkML file. @throws Error with a message for the teacher */
export async function inkIn(file: File, bringing: Omit<Bringing, 'newId'>): Promise<BroughtInk[]> {
  if (file.size > LARGEST_INKML_BYTES) {
    throw new Error(`An InkML file may have ${LARGEST_INKML_BYTES / 2 ** 20} MB at most. Split it.`);
  }
  const source = await file.text();
  const canvases = await withInkMl((inkMl) => inkMl.read(source, bringing));
  const written = canvases
    .map(({ pieces, atMs }) => ({ strokes: decodePieces(pieces) as Stroke[], atMs }))
    .filter(({ strokes }) => strokes.length > 0);
  if (written.length === 0) throw new Error('There is no ink in it.');
  return written;
}
