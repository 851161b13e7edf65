/** A text in UTF-8 (RFC 3629); half a surrogate pair becomes U+FFFD. */
export function utf8(text: string): Uint8Array<ArrayBuffer> {
  return Uint8Array.from([...text].flatMap((letter) => bytesOf(letter.codePointAt(0)!)));
}

const REPLACEMENT = 0xfffd;
const isSurrogate = (code: number): boolean => code >= 0xd800 && code <= 0xdfff;

function bytesOf(point: number): number[] {
  const code = isSurrogate(point) ? REPLACEMENT : point;
  const rest = (shift: number) => 0x80 | ((code >> shift) & 0x3f);
  if (code < 0x80) return [code];
  if (code < 0x800) return [0xc0 | (code >> 6), rest(0)];
  if (code < 0x10000) return [0xe0 | (code >> 12), rest(6), rest(0)];
  return [0xf0 | (code >> 18), rest(12), rest(6), rest(0)];
}
