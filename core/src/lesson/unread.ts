/**
 * Something stored that this program could not read: it was made by a newer version, or is damaged. It is kept as it was
 * written, and written back, so that a version which understands it has it whole.
 */
export interface Unread {
  /** The version of the format it was written in. */
  version: number;
  /** What it was said to be; its meaning is the version's. */
  code: number;
  bytes: Uint8Array;
  /** The tables its bytes refer to. */
  tables: Uint8Array;
}
