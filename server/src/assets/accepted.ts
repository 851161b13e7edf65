import { imageDimensionsFromData } from 'image-dimensions';
import { badInput, RequestProblem } from '../http/problem';

const LARGEST_FILE_MB = 80;
/** The largest file a lesson takes; the web application says so, too. */
const LARGEST_FILE_BYTES = LARGEST_FILE_MB * 2 ** 20;
const tooLarge = () => new RequestProblem(413, 'too-large', `A file may have ${LARGEST_FILE_MB} MB at most.`);
/** Decoded, 40 megapixels take 160 megabytes: what an ordinary tablet can just bear. Larger ones are reduced first. */
const MOST_PIXELS = 40e6;
const MOST_PIXELS_A_SIDE = 16_384;

/** Pictures are brought into one of these before they are sent; PDFs are kept as they are. */
const PICTURE_TYPES: Record<string, string> = { png: 'image/png', jpeg: 'image/jpeg', webp: 'image/webp' };

/**
 * The media type of a file by what is in it, whatever it says it is.
 * @param head its beginning
 * @throws RequestProblem when a lesson cannot use it
 */
export function acceptedType(head: Uint8Array, sizeBytes: number): string {
  if (sizeBytes === 0) throw badInput('This file is empty.');
  if (sizeBytes > LARGEST_FILE_BYTES) throw tooLarge();
  return isPdf(head) ? 'application/pdf' : pictureType(head);
}

/** The media type of a picture. @throws RequestProblem when it is none, or too large to be shown */
export function pictureType(bytes: Uint8Array): string {
  const found = imageDimensionsFromData(bytes);
  const type = found?.type && PICTURE_TYPES[found.type];
  if (!found || !type)
    throw badInput('This is neither a PDF nor a PNG, JPEG or WebP picture. Save it as one of these.');
  const { width, height } = found;
  if (width * height > MOST_PIXELS || Math.max(width, height) > MOST_PIXELS_A_SIDE) {
    throw badInput(`This picture has ${width} × ${height} pixels, more than can be shown. Make it smaller.`);
  }
  return type;
}

/** A PDF says so within its first 1024 bytes (ISO 32000-1, annex H, implementation note 13). */
const isPdf = (bytes: Uint8Array) => Buffer.from(bytes.subarray(0, 1024)).includes('%PDF-');
