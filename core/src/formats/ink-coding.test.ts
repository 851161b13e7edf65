import { describe, expect, it } from 'vitest';
import { ByteReader, ByteWriter, FormatError } from './bytes';
import { readPoints } from './ink-coding';

const ESCAPE = 255;

/** A point at the origin whose time is so many milliseconds. */
function pointAt(ms: number): ByteReader {
  const out = new ByteWriter();
  out.unsigned(1);
  out.signed(0);
  out.signed(0);
  out.byte(ESCAPE);
  out.signed(ms);
  out.signed(0);
  return new ByteReader(out.finish());
}

describe('points that are damaged', () => {
  it('have no time before their stroke began, nor one that 32 bits cannot hold', () => {
    expect(readPoints(pointAt(0xffff_ffff)).lengthMs).toBe(0xffff_ffff);
    for (const ms of [-1, -53, 0x1_0000_0000]) expect(() => readPoints(pointAt(ms))).toThrow(FormatError);
  });
});
