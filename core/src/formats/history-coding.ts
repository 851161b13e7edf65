import type { Change, Mark } from '../lesson/mark';
import { ByteReader, ByteWriter } from './bytes';
import { hasMagic, MAGIC, readMagic, writeMagic } from './magic';
import { decodeMarks, encodeMarks } from './marks-coding';

/** What can be undone and redone, the next step last. A step is the changes that make it, in their order. */
export interface History {
  undo: readonly (readonly Change[])[];
  redo: readonly (readonly Change[])[];
}

export const NO_HISTORY: History = { undo: [], redo: [] };

const VERSION = 2;

/** Writes a history. A step's number takes the place of its marks' time. */
export function encodeHistory({ undo, redo }: History): Uint8Array<ArrayBuffer> {
  const out = new ByteWriter();
  writeMagic(out, MAGIC.history, VERSION);
  for (const steps of [undo, redo]) {
    out.block(encodeMarks(steps.flatMap((step, n) => step.map((change): Mark => ({ ...change, atSamples: n })))));
  }
  return out.finish();
}

/** Reads a history; no bytes at all are an empty one. @throws FormatError */
export function decodeHistory(bytes: Uint8Array): History {
  if (bytes.length === 0) return NO_HISTORY;
  const from = new ByteReader(bytes);
  // The first version began with the steps to undo.
  if (hasMagic(bytes, MAGIC.history)) readMagic(from, MAGIC.history, VERSION);
  return { undo: stepsOf(from.block()), redo: stepsOf(from.block()) };
}

/** A step that cannot be read whole cannot be gone back by: it is left out, with all that lie beyond it. */
function stepsOf(bytes: Uint8Array): Change[][] {
  const steps: Change[][] = [];
  let last = -1;
  for (const { atSamples, ...change } of decodeMarks(bytes)) {
    if (atSamples !== last) steps.push([]);
    last = atSamples;
    steps[steps.length - 1].push(change as Change);
  }
  const isLost = (change: Change) => change.kind === 'unread' || ('unread' in change && change.unread !== undefined);
  return steps.slice(steps.findLastIndex((step) => step.some(isLost)) + 1);
}
