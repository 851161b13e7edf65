import type { Unread } from '../lesson/unread';
import { ByteReader, ByteWriter, FormatError } from './bytes';
import type { WriteTables } from './tables';
import { ReadTables } from './tables';

/** The version of everything that is made of records and tables. A reader knows all older ones, and refuses newer ones. */
export const INK_VERSION = 4;

/** A record with this code was carried along: it comes from other bytes, with their version, code and tables. */
const CARRIED = 0;

/** Writes a record: what it is said to be, and its bytes with their length before them. */
export function writeRecord(out: ByteWriter, code: number, write: (out: ByteWriter) => void): void {
  const content = new ByteWriter();
  write(content);
  out.byte(code);
  out.block(content.written);
}

/** Writes what could not be read as it was. */
export function writeUnread(out: ByteWriter, tables: WriteTables, raw: Unread): void {
  writeRecord(out, CARRIED, (content) => {
    const key = `${raw.version} ${raw.tables.join()}`;
    const number = tables.numberOf('foreign', key, (entry) => {
      entry.byte(raw.version);
      entry.bytes(raw.tables);
    });
    content.unsigned(number);
    content.byte(raw.code);
    content.bytes(raw.bytes);
  });
}

/**
 * Reads a record, or keeps it as it is where it cannot be read: it costs itself alone. What was carried along is read where
 * this version can.
 * @throws FormatError where the record does not end within the bytes
 */
export function readRecord<T>(
  from: ByteReader,
  tables: ReadTables,
  read: (content: ByteReader, tables: ReadTables, code: number) => T,
): T | { unread: Unread } {
  const code = from.byte();
  const bytes = from.block();
  if (code === CARRIED) {
    const carried = readCarried(bytes, tables);
    if (carried) return carried.version === INK_VERSION ? tried(carried, read) : { unread: carried };
  }
  return tried({ version: INK_VERSION, code, bytes, tables: tables.bytes }, read, tables);
}

function readCarried(bytes: Uint8Array, tables: ReadTables): Unread | null {
  try {
    const from = new ByteReader(bytes);
    const foreign = tables.entry('foreign', from.unsigned(), (entry) => ({
      version: entry.byte(),
      tables: entry.bytes(entry.left),
    }));
    return { ...foreign, code: from.byte(), bytes: from.bytes(from.left) };
  } catch (error) {
    if (!(error instanceof FormatError)) throw error;
    return null;
  }
}

function tried<T>(
  raw: Unread,
  read: (content: ByteReader, tables: ReadTables, code: number) => T,
  tables?: ReadTables,
): T | { unread: Unread } {
  try {
    const content = new ByteReader(raw.bytes);
    const value = read(content, tables ?? new ReadTables(raw.tables), raw.code);
    content.end();
    return value;
  } catch (error) {
    if (!(error instanceof FormatError)) throw error;
    return { unread: raw };
  }
}

export const isUnread = <T>(one: T | { unread: Unread }): one is { unread: Unread } =>
  typeof one === 'object' && one !== null && 'unread' in one && !('kind' in one);
