import type { Mark } from '../lesson/mark';
import { sceneOf, type Scene } from '../lesson/scene';
import type { Trail } from '../trail/trail';
import { Timeline } from '../trail/timeline';
import { ByteReader, ByteWriter, damaged } from './bytes';
import { hasMagic, MAGIC, readMagic, writeMagic } from './magic';
import { contentsOf, decodeContents, decodeMarks, encodeMarks, pageStateFrom } from './marks-coding';

/** What a watch link plays: the pages as prepared and the programme played out. */
export interface Payload {
  base: Scene;
  trail: Trail;
}

const VERSION = 2;

export function encodePayload({ base, trail }: Payload): Uint8Array<ArrayBuffer> {
  const out = new ByteWriter();
  writeMagic(out, MAGIC.payload, VERSION);
  out.unsigned(trail.lengthSamples);
  out.block(
    encodeMarks(
      base.pages.map(({ page }, i): Mark => {
        return { kind: 'add-page', atSamples: 0, page, after: i === 0 ? null : base.pages[i - 1].page.id };
      }),
    ),
  );
  for (const state of base.pages) out.block(contentsOf(state));
  out.block(encodeMarks(trail.marks));
  return out.finish();
}

/** Reads a payload. @throws FormatError */
export function decodePayload(bytes: Uint8Array): Payload {
  const from = new ByteReader(bytes);
  // The first version began with the length.
  if (hasMagic(bytes, MAGIC.payload)) readMagic(from, MAGIC.payload, VERSION);
  const lengthSamples = from.unsigned();
  const pages = decodeMarks(from.block()).flatMap((mark) => (mark.kind === 'add-page' ? [mark.page] : []));
  if (pages.length === 0) throw damaged();
  const base = sceneOf(pages.map((page) => pageStateFrom(page, decodeContents(from.block()))));
  return { base, trail: { lengthSamples, marks: decodeMarks(from.block()) } };
}

/** The payload's timeline, ready to seek. */
export const timelineOf = ({ base, trail }: Payload): Timeline => new Timeline(base, trail);
