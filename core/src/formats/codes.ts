import type { Change } from '../lesson/mark';
import type { Piece } from '../lesson/piece';

/** What things are called in stored bytes. A code is never given to another thing: versions 1 to 3 used these already. */

export const MARK_CODES = {
  ink: 1,
  place: 2,
  lift: 3,
  turn: 4,
  'add-page': 5,
  alter: 6,
  'drop-page': 7,
  'move-page': 8,
  'alter-page': 9,
  look: 10,
  point: 11,
  transform: 12,
  arrange: 13,
} as const satisfies Record<Exclude<Change['kind'], 'unread'>, number>;

export const PIECE_CODES = {
  stroke: 1,
  picture: 2,
  text: 3,
  shape: 4,
  formula: 5,
  plot: 6,
  instrument: 7,
} as const satisfies Record<Piece['kind'], number>;

const COMPOSED_KINDS = ['text', 'shape', 'formula', 'plot', 'instrument'] as const;

/** A composed piece's kind; undefined for the code of anything else. */
export const composedKindOf = (code: number) => COMPOSED_KINDS.find((kind) => PIECE_CODES[kind] === code);
