import type { Mark } from '../lesson/mark';
import { sceneOf, type Scene } from '../lesson/scene';
import type { Trail } from '../trail/trail';
import { Timeline } from '../trail/timeline';
import { ByteReader, ByteWriter } from './bytes';
import { decodeMarks, decodePieces, encodeMarks, encodePieces } from './marks-coding';

/** What a watch link plays: the pages as prepared and the programme played out. */
export interface Payload {
  base: Scene;
  trail: Trail;
}

export function encodePayload({ base, trail }: Payload): Uint8Array<ArrayBuffer> {
  const out = new ByteWriter();
  out.unsigned(trail.lengthSamples);
  out.block(
    encodeMarks(
      base.pages.map(({ page }, i): Mark => {
        return { kind: 'add-page', atSamples: 0, page, after: i === 0 ? null : base.pages[i - 1].page.id };
      }),
    ),
  );
  for (const { pieces } of base.pages) out.block(encodePieces(pieces));
  out.block(encodeMarks(trail.marks));
  return out.finish();
}

/** Reads a payload. @throws FormatError */
export function decodePayload(bytes: Uint8Array): Payload {
  const from = new ByteReader(bytes);
  const lengthSamples = from.unsigned();
  const pages = decodeMarks(from.block()).flatMap((mark) => (mark.kind === 'add-page' ? [mark.page] : []));
  const base = sceneOf(pages.map((page) => ({ page, pieces: decodePieces(from.block()) })));
  return { base, trail: { lengthSamples, marks: decodeMarks(from.block()) } };
}

/** The payload's timeline, ready to seek. */
export const timelineOf = ({ base, trail }: Payload): Timeline => new Timeline(base, trail);
