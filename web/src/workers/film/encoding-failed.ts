/** By this name it is known on the page, too. */
export const ENCODING_FAILED = 'EncodingFailed';

/** A device's encoder gave up, or cannot be had any more: others of it may be free, or another codec's. */
export class EncodingFailed extends Error {
  override readonly name = ENCODING_FAILED;

  constructor(cause: unknown) {
    super('This device’s encoder for such videos gave up.', { cause });
  }
}
