import type { z } from 'zod';

/** Thrown when stored bytes are not what they should be. The message is for the teacher. */
export class FormatError extends Error {
  override readonly name = 'FormatError';
}

/** Writes bytes, LEB128 variable-length integers and short texts into a growing buffer. */
export class ByteWriter {
  private buffer = new Uint8Array(1024);
  private length = 0;

  byte(value: number): void {
    this.room(1);
    this.buffer[this.length++] = value;
  }

  /** A whole number from 0 to 2^53 − 1. */
  unsigned(value: number): void {
    let rest = value;
    while (rest > 0x7f) {
      this.byte((rest % 0x80) | 0x80);
      rest = Math.floor(rest / 0x80);
    }
    this.byte(rest);
  }

  /** A whole number of either sign, small magnitudes in few bytes (zigzag). */
  signed(value: number): void {
    this.unsigned(value < 0 ? -2 * value - 1 : 2 * value);
  }

  bytes(values: Uint8Array): void {
    this.room(values.length);
    this.buffer.set(values, this.length);
    this.length += values.length;
  }

  /** Bytes with their count before them. */
  block(values: Uint8Array): void {
    this.unsigned(values.length);
    this.bytes(values);
  }

  /** ASCII text with its length before it. */
  text(value: string): void {
    this.block(Uint8Array.from(value, (letter) => letter.charCodeAt(0) & 0x7f));
  }

  /** Any text: as JSON, in ASCII. */
  json(value: unknown): void {
    this.text(asciiJson(value));
  }

  /** A single-precision number (IEEE 754), little-endian. */
  float(value: number): void {
    this.bytes(new Uint8Array(Float32Array.of(value).buffer));
  }

  /** A double-precision number (IEEE 754), little-endian. */
  double(value: number): void {
    this.bytes(new Uint8Array(Float64Array.of(value).buffer));
  }

  finish(): Uint8Array<ArrayBuffer> {
    return this.buffer.slice(0, this.length);
  }

  private room(count: number): void {
    if (this.length + count <= this.buffer.length) return;
    const larger = new Uint8Array(Math.max(this.buffer.length * 2, this.length + count));
    larger.set(this.buffer);
    this.buffer = larger;
  }
}

/** Reads what {@link ByteWriter} wrote. Every read past the end throws a {@link FormatError}. */
export class ByteReader {
  private at = 0;

  constructor(private readonly buffer: Uint8Array) {}

  get left(): number {
    return this.buffer.length - this.at;
  }

  byte(): number {
    if (this.at >= this.buffer.length) throw damaged();
    return this.buffer[this.at++];
  }

  unsigned(): number {
    let value = 0;
    let scale = 1;
    for (;;) {
      const byte = this.byte();
      value += (byte & 0x7f) * scale;
      if (byte < 0x80) break;
      scale *= 0x80;
      if (scale > Number.MAX_SAFE_INTEGER) throw damaged();
    }
    if (value > Number.MAX_SAFE_INTEGER) throw damaged();
    return value;
  }

  signed(): number {
    const value = this.unsigned();
    return value % 2 === 0 ? value / 2 : -(value + 1) / 2;
  }

  /** A count of things that take at least one byte each, so that a damaged count cannot ask for endless room. */
  count(): number {
    const value = this.unsigned();
    if (value > this.left) throw damaged();
    return value;
  }

  block(): Uint8Array {
    const length = this.count();
    this.at += length;
    return this.buffer.subarray(this.at - length, this.at);
  }

  text(): string {
    return Array.from(this.block(), (code) => String.fromCharCode(code)).join('');
  }

  /** What {@link ByteWriter.json} wrote, checked. */
  json<T>(schema: z.ZodType<T>): T {
    return checkedJson(this.text(), schema);
  }

  float(): number {
    const value = new Float32Array(this.slice(4).buffer)[0];
    if (!Number.isFinite(value)) throw damaged();
    return value;
  }

  double(): number {
    const value = new Float64Array(this.slice(8).buffer)[0];
    if (!Number.isFinite(value)) throw damaged();
    return value;
  }

  private slice(length: number): Uint8Array<ArrayBuffer> {
    if (length > this.left) throw damaged();
    this.at += length;
    return new Uint8Array(this.buffer.slice(this.at - length, this.at));
  }
}

/** Blocks of bytes that follow one another, as one. */
export function joinBytes(blocks: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const joined = new Uint8Array(blocks.reduce((sum, block) => sum + block.length, 0));
  let at = 0;
  for (const block of blocks) {
    joined.set(block, at);
    at += block.length;
  }
  return joined;
}

/** JSON with all that is not ASCII escaped. */
export const asciiJson = (value: unknown): string =>
  JSON.stringify(value).replace(/[^ -~]/g, (letter) => `\\u${letter.charCodeAt(0).toString(16).padStart(4, '0')}`);

/** @throws FormatError where the text is no JSON, or not of this shape */
export function checkedJson<T>(json: string, schema: z.ZodType<T>): T {
  try {
    return schema.parse(JSON.parse(json));
  } catch {
    throw damaged();
  }
}

export const damaged = () => new FormatError('This ink is damaged and cannot be read. Nothing was changed.');
