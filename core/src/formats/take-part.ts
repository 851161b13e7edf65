import type { Mark } from '../lesson/mark';
import { NOTHING_HEARD, type HeardVoice } from '../sound/profile';
import { ByteReader, ByteWriter } from './bytes';
import { hasMagic, MAGIC, readMagic, writeMagic } from './magic';
import { decodeMarks, encodeMarks } from './marks-coding';
import { decodeHeard, encodeHeard } from './profile-coding';

/** What a recording has to keep of about one second. The same bytes go to the journal and to the server. */
export interface TakePart {
  /** Marks made in this second. */
  marks: readonly Mark[];
  /** Strokes being written when it ended, as far as they were: only the last part's are ever needed. */
  unfinished: readonly Mark[];
  /** The take's length so far. */
  toSamples: number;
  /** The next bytes of the take's Ogg Opus stream. */
  sound: Uint8Array;
  /** The minutes of it that were listened to since the part before. */
  heard: HeardVoice;
}

const VERSION = 2;

export function encodeTakePart(part: TakePart): Uint8Array<ArrayBuffer> {
  const out = new ByteWriter();
  writeMagic(out, MAGIC.takePart, VERSION);
  out.unsigned(part.toSamples);
  out.block(encodeMarks(part.marks));
  out.block(encodeMarks(part.unfinished));
  out.block(part.sound);
  if (part.heard.peaks.length > 0) out.block(encodeHeard(part.heard));
  return out.finish();
}

/** Reads a part. @throws FormatError */
export function decodeTakePart(bytes: Uint8Array): TakePart {
  const from = new ByteReader(bytes);
  // The first version began with the length.
  if (hasMagic(bytes, MAGIC.takePart)) readMagic(from, MAGIC.takePart, VERSION);
  return {
    toSamples: from.unsigned(),
    marks: decodeMarks(from.block()),
    unfinished: decodeMarks(from.block()),
    sound: from.block(),
    heard: from.left > 0 ? decodeHeard(from.block()) : NOTHING_HEARD,
  };
}
