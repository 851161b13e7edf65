import { unzlibSync } from 'fflate';

const WOFF_SIGNATURE = 0x774f4646;
const HEADER_BYTES = 44;
const ENTRY_BYTES = 20;
const SFNT_HEADER_BYTES = 12;
const SFNT_ENTRY_BYTES = 16;

/**
 * A font file as OpenType has it, where it came packed (WOFF File Format 1.0, W3C Recommendation of 2012): tables are compressed one by
 * one, with zlib. A file that is not packed is given back as it is.
 */
export function unpackedFont(file: ArrayBuffer): ArrayBuffer {
  const from = new DataView(file);
  if (from.getUint32(0) !== WOFF_SIGNATURE) return file;
  const tableCount = from.getUint16(12);
  const out = new Uint8Array(from.getUint32(16));
  const to = new DataView(out.buffer);
  to.setUint32(0, from.getUint32(4));
  to.setUint16(4, tableCount);
  // How a binary search through the tables goes (OpenType 1.9, "Table Directory").
  const power = Math.floor(Math.log2(tableCount));
  to.setUint16(6, 2 ** power * SFNT_ENTRY_BYTES);
  to.setUint16(8, power);
  to.setUint16(10, (tableCount - 2 ** power) * SFNT_ENTRY_BYTES);
  let at = SFNT_HEADER_BYTES + tableCount * SFNT_ENTRY_BYTES;
  for (let n = 0; n < tableCount; n++) {
    const entry = HEADER_BYTES + n * ENTRY_BYTES;
    const [tag, offset, packedLength, length, checksum] = [0, 4, 8, 12, 16].map((by) => from.getUint32(entry + by));
    const packed = new Uint8Array(file, offset, packedLength);
    out.set(packedLength < length ? unzlibSync(packed) : packed, at);
    [tag, checksum, at, length].forEach((value, i) =>
      to.setUint32(SFNT_HEADER_BYTES + n * SFNT_ENTRY_BYTES + i * 4, value),
    );
    at += Math.ceil(length / 4) * 4;
  }
  return out.buffer;
}
