import { decodeMarks, encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { PayloadOf } from './entry';

/** Changes as two entries' payloads, the earlier ones first; `null` where there is only one. */
export function halved({ marks, history }: PayloadOf<'changes'>): [PayloadOf<'changes'>, PayloadOf<'changes'>] | null {
  const all = decodeMarks(marks);
  if (all.length < 2) return null;
  const middle = all.length >> 1;
  const half = (some: typeof all) => ({ marks: encodeMarks(some), history });
  return [half(all.slice(0, middle)), half(all.slice(middle))];
}
