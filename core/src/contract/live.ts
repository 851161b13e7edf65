import { z } from 'zod';
import { assetId } from './primitives';

/** Letters and digits that nobody takes for one another: no 0 and O, no 1, I and L. */
export const CODE_LETTERS = '23456789ABCDEFGHJKMNPQRSTUVWXYZ';
export const CODE_LENGTH = 6;

/** The code of a live page, as it is read from a board and typed: in letters of either size, with gaps. */
export const liveCode = z
  .string()
  .overwrite((typed) => typed.replace(/[\s-]/g, '').toUpperCase())
  .regex(new RegExp(`^[${CODE_LETTERS}]{${CODE_LENGTH}}$`), 'A code has six letters and digits.');

/** A code as it is read across a room: two groups are read and typed more surely than one. */
export const spacedCode = (code: string): string => code.replace(/^(...)(...)$/, '$1 $2');

/** What the window that shows a page is told. */
export const livePage = z.object({
  code: z.string(),
  /** Names the page in the addresses of all that is about it. */
  token: z.string(),
  /** Whoever has it shows the page: one window alone. */
  key: z.string(),
});
export type LivePage = z.output<typeof livePage>;

/** What those who know the code are told. */
export const liveAddress = z.object({ token: z.string() });

/** Pictures and PDF pages that are to be seen. */
export const shownFiles = z
  .array(z.object({ asset: assetId, pageIndex: z.number().int().min(0).max(100_000).nullable() }))
  .max(10_000);

/** In which the window that shows a page says its key, where it cannot keep a connection open. */
export const LIVE_KEY_HEADER = 'x-live-key';

/** What bytes from the window that shows a page are; they follow one byte that says so. */
export const SHOWN = {
  /** What makes the next sight of the last. */
  change: 0,
  /** All that is to be seen. */
  whole: 1,
  /** All that is to be seen so far, for those who come later. */
  checkpoint: 2,
  /** Nothing new, from a window that keeps no connection open. */
  alive: 3,
} as const;
export const shownKind = z.enum(SHOWN);
export type ShownKind = z.output<typeof shownKind>;

/** A sight comes to its followers behind its number within a run: so many bytes, big-endian. */
export const LIVE_NUMBER_BYTES = 4;

/** The largest sight: a page of 10,000 strokes is some 2 MB. */
export const LARGEST_SIGHT_BYTES = 16 * 2 ** 20;

/** What the window that shows a page hears. */
export const toShower = z.object({
  followers: z.number(),
  /** Those who come later have too much to read: a checkpoint is wanted. */
  wantsCheckpoint: z.boolean(),
});
export type ToShower = z.output<typeof toShower>;

/** How it stands with a page, as its followers hear it. */
export const liveState = z.object({
  /** Changes are counted within a run: where it is another one, what is known is of no use. */
  run: z.string(),
  /** A window shows the page just now. */
  isShown: z.boolean(),
});
export type LiveState = z.output<typeof liveState>;

/** Why a connection of a live page ends for good (RFC 6455, section 7.4.2: codes of one's own). */
export const LIVE_ENDS = {
  /** The teacher has ended it. */
  over: 4001,
  /** Another window shows the page from now on. */
  elsewhere: 4002,
  /** More follow than there is room for. */
  full: 4003,
} as const;
