import type { z } from 'zod';

/** Thrown when stored bytes are not what they should be. The message is for the teacher. */
export class FormatError extends Error {
  override readonly name = 'FormatError';
}

/**
 * Writes bytes, LEB128 variable-length integers and short texts into a growing buffer. Whoever writes has checked what can
 * be written (`contract/change`): what cannot is thrown back as a RangeError, and never cut short in silence.
 */
export class ByteWriter {
  private buffer = new Uint8Array(64);
  private length = 0;

  /** A whole number from 0 to 255. */
  byte(value: number): void {
    if (!Number.isInteger(value) || value < 0 || value > 255) throw new RangeError(`${value} is no byte.`);
    this.room(1);
    this.buffer[this.length++] = value;
  }

  /** A whole number from 0 to 2^53 − 1. */
  unsigned(value: number): void {
    if (!Number.isSafeInteger(value) || value < 0) throw new RangeError(`${value} is no whole number from 0 on.`);
    this.room(8);
    let rest = value;
    while (rest > 0x7f) {
      this.buffer[this.length++] = (rest % 0x80) | 0x80;
      rest = Math.floor(rest / 0x80);
    }
    this.buffer[this.length++] = rest;
  }

  /** A whole number of either sign, of less than 2^52, small magnitudes in few bytes (zigzag). */
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
    this.unsigned(value.length);
    this.ascii(value);
  }

  /** ASCII text as such. */
  ascii(value: string): void {
    this.room(value.length);
    for (let i = 0; i < value.length; i++) {
      const code = value.charCodeAt(i);
      if (code > 0x7f) throw new RangeError(`“${value[i]}” is not ASCII.`);
      this.buffer[this.length++] = code;
    }
  }

  /** Any text: as JSON, in ASCII. */
  json(value: unknown): void {
    this.text(asciiJson(value));
  }

  /** A single-precision number (IEEE 754), little-endian. */
  float(value: number): void {
    if (!Number.isFinite(Math.fround(value))) throw new RangeError(`${value} is no single-precision number.`);
    this.bytes(new Uint8Array(Float32Array.of(value).buffer));
  }

  /** A double-precision number (IEEE 754), little-endian. */
  double(value: number): void {
    if (!Number.isFinite(value)) throw new RangeError(`${value} is no number.`);
    this.bytes(new Uint8Array(Float64Array.of(value).buffer));
  }

  finish(): Uint8Array<ArrayBuffer> {
    return this.buffer.slice(0, this.length);
  }

  /** What was written so far; good until more is. */
  get written(): Uint8Array {
    return this.buffer.subarray(0, this.length);
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

  /** The bytes that are left; they stay to be read. */
  get unread(): Uint8Array {
    return this.buffer.subarray(this.at);
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
    return this.bytes(this.count());
  }

  text(): string {
    return asciiOf(this.block());
  }

  /** All that is left, as ASCII text. */
  rest(): string {
    return asciiOf(this.bytes(this.left));
  }

  /** So many bytes. */
  bytes(length: number): Uint8Array {
    if (length > this.left) throw damaged();
    this.at += length;
    return this.buffer.subarray(this.at - length, this.at);
  }

  /** @throws FormatError where something is left: then it was not read as it was written */
  end(): void {
    if (this.left > 0) throw damaged();
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

function asciiOf(bytes: Uint8Array): string {
  if (bytes.some((code) => code > 0x7f)) throw damaged();
  return Array.from(bytes, (code) => String.fromCharCode(code)).join('');
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
