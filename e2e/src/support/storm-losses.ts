import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { decodeMarks, decodePieces } from '@kite-trail/core/formats/marks-coding';
import type { Piece } from '@kite-trail/core/lesson/piece';
import { programmeLength } from '@kite-trail/core/trail/programme';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import type { Person } from './browser';
import { bytesAt, openLesson } from './lessons';
import { placeOfStroke, type Done, type Logbook } from './storm';

/** A stroke begins at its place to a small part of the page. */
const NEAR = 0.005;

/** What the school has of a lesson. */
export interface Held {
  lesson: LessonDocument;
  /** Every piece that was ever put on a page, also twice. */
  pieces: Piece[];
}

/** Reads all of the open lesson from the school: its pages, its takes, and what was changed since. */
export async function heldBySchool(person: Person): Promise<Held> {
  const lesson = await openLesson(person);
  const pieces = lesson.pages.flatMap((one) => decodePieces(Buffer.from(one.pieces, 'base64')));
  const takes = lesson.takes.filter((take) => take.marks);
  const marks = [decodeMarks(Buffer.from(lesson.between, 'base64'))];
  for (const { id } of takes) marks.push(decodeMarks(await bytesAt(person, `/takes/${id}/marks`)));
  for (const mark of marks.flat()) {
    if (mark.kind === 'ink') pieces.push(mark.stroke);
    if (mark.kind === 'place') pieces.push(...mark.pieces);
  }
  return { lesson, pieces };
}

export interface Losses {
  /** What was done and the school does not have, with how long before its window went it was done. */
  missing: (Done & { beforeGoneMs: number })[];
  /** What the school has twice. */
  twice: string[];
}

/** Compares what was done with what the school has. */
export function lostIn({ done, windowsGoneMs }: Logbook, { lesson, pieces }: Held): Losses {
  const [{ page }] = lesson.pages;
  const begins = pieces.flatMap((piece) => {
    if (piece.kind !== 'stroke') return [];
    const { xPt, yPt } = piece.points;
    return [[xPt[0] / page.widthPt, yPt[0] / page.heightPt] as const];
  });
  const countOf = (n: number) => {
    const [u, v] = placeOfStroke(n);
    return begins.filter(([x, y]) => Math.abs(x - u) < NEAR && Math.abs(y - v) < NEAR).length;
  };
  const strokes = done.filter(({ kind }) => kind === 'stroke').map((one) => ({ one, count: countOf(one.n) }));
  const missing = strokes.filter(({ count }) => count === 0).map(({ one }) => one);
  const twice = strokes.filter(({ count }) => count > 1).map(({ one }) => `stroke ${one.n}`);

  const pictures = pieces.filter((piece) => piece.kind === 'picture');
  const files = new Set(pictures.map(({ asset }) => asset));
  const brought = done.filter(({ kind }) => kind === 'picture');
  const ids = pictures.map(({ id }) => id);
  if (new Set(ids).size < ids.length) twice.push('a picture');
  missing.push(...newest(brought, brought.length - files.size));

  const takes = done.filter(({ kind }) => kind === 'take');
  const ended = lesson.takes.filter((take) => take.ended && take.lengthSamples > 0);
  missing.push(...newest(takes, takes.length - ended.length));

  // What was cut is what the trail is shorter than its takes.
  const cuts = done.filter(({ kind }) => kind === 'cut');
  const recorded = ended.reduce((sum, take) => sum + take.lengthSamples, 0);
  const cut = recorded - programmeLength(lesson.edition.programme);
  const meant = cuts.reduce((sum, { n }) => sum + n, 0);
  missing.push(...newest(cuts, Math.round((meant - cut) / CLOCK_HZ)));
  if (cut - meant > CLOCK_HZ / 2)
    twice.push(`cuts: ${(cut / CLOCK_HZ).toFixed(1)} s instead of ${(meant / CLOCK_HZ).toFixed(1)} s`);

  return { missing: missing.map((one) => ({ ...one, beforeGoneMs: untilGone(one, windowsGoneMs) })), twice };
}

/** Where only their number is known, the newest are taken for those that are missing. */
const newest = (done: readonly Done[], count: number): Done[] => (count > 0 ? done.slice(-count) : []);

/** How long it had been done when its window went; without end where none did. */
function untilGone({ atMs }: Done, windowsGoneMs: readonly number[]): number {
  const gone = windowsGoneMs.find((one) => one >= atMs);
  return gone === undefined ? Infinity : gone - atMs;
}
