import type { z } from 'zod';
import type { InkPoints } from '../ink/points';
import { asciiJson, ByteReader, ByteWriter, checkedJson, damaged } from './bytes';

/**
 * What is mentioned again and again is written once, in a table before all else, and called by its number there. Every
 * entry has its length before it, so one that cannot be read costs only what mentions it. In the order in which the tables
 * are written; new ones go at the end.
 */
const TABLES = [
  'ids',
  'pens',
  'assets',
  'json',
  'points',
  'cutOuts',
  'outlines',
  'drawings',
  'idLists',
  'foreign',
] as const;
type TableName = (typeof TABLES)[number];

interface WriteTable {
  numbers: Map<string, number>;
  blocks: Uint8Array[];
}

/** What is going to be mentioned: what is mentioned once is written where it is mentioned, and needs no table. */
export interface Mentioned {
  ids: string[];
  points: InkPoints[];
}

export class WriteTables {
  private readonly repeatedIds: ReadonlySet<string>;
  private readonly repeatedPoints: ReadonlySet<string>;
  private readonly tables = new Map<TableName, WriteTable>(
    TABLES.map((name) => [name, { numbers: new Map(), blocks: [] }]),
  );
  private readonly points = new PointsTable();

  constructor({ ids, points }: Mentioned) {
    this.repeatedIds = repeatedAmong(ids);
    this.repeatedPoints = repeatedAmong(points.map(keyOf));
  }

  isRepeatedId = (id: string): boolean => this.repeatedIds.has(id);
  areRepeated = (points: InkPoints): boolean => this.repeatedPoints.has(keyOf(points));

  /** The number of an entry: one that has its key, or a new one. @param write writes a new one's bytes */
  numberOf(table: TableName, key: string, write: (out: ByteWriter) => void): number {
    const { numbers } = this.tables.get(table)!;
    const known = numbers.get(key);
    if (known !== undefined) return known;
    // Writing an entry may mention entries of its own; its number is taken when its bytes are complete.
    const block = written(write);
    const { blocks } = this.tables.get(table)!;
    numbers.set(key, blocks.length);
    blocks.push(block);
    return blocks.length - 1;
  }

  numberOfJson(value: unknown): number {
    const json = asciiJson(value);
    return this.numberOf('json', json, (out) => out.ascii(json));
  }

  numberOfPoints(points: InkPoints, write: (out: ByteWriter) => void): number {
    const known = this.points.find(points);
    if (known !== null) return known;
    const { blocks } = this.tables.get('points')!;
    this.points.add(points, blocks.length);
    blocks.push(written(write));
    return blocks.length - 1;
  }

  finish(): Uint8Array {
    return written((out) => {
      for (const name of TABLES) {
        const { blocks } = this.tables.get(name)!;
        out.unsigned(blocks.length);
        for (const block of blocks) out.block(block);
      }
    });
  }
}

function repeatedAmong(all: readonly string[]): Set<string> {
  const [seen, repeated] = [new Set<string>(), new Set<string>()];
  for (const one of all) (seen.has(one) ? repeated : seen).add(one);
  return repeated;
}

function written(write: (out: ByteWriter) => void): Uint8Array {
  const out = new ByteWriter();
  write(out);
  return out.finish();
}

/** Ink that is moved or altered keeps its points, so they need not be written again. */
class PointsTable {
  private readonly byPlace = new Map<string, { points: InkPoints; number: number }[]>();

  find(points: InkPoints): number | null {
    const alike = this.byPlace.get(keyOf(points)) ?? [];
    return alike.find((one) => one.points === points || one.points.equals(points))?.number ?? null;
  }

  add(points: InkPoints, number: number): void {
    const key = keyOf(points);
    this.byPlace.set(key, [...(this.byPlace.get(key) ?? []), { points, number }]);
  }
}

function keyOf({ count, xPt, yPt }: InkPoints): string {
  const last = count - 1;
  return `${last} ${xPt[0]} ${yPt[0]} ${xPt[last]} ${yPt[last]}`;
}

/** Reads what {@link WriteTables} wrote; each entry when it is first mentioned. */
export class ReadTables {
  private readonly tables = new Map<TableName, { blocks: Uint8Array[]; read: unknown[] }>();

  /** @throws FormatError where the tables themselves do not hold together */
  constructor(readonly bytes: Uint8Array) {
    const from = new ByteReader(bytes);
    for (const name of TABLES) {
      const blocks = Array.from({ length: from.count() }, () => from.block());
      this.tables.set(name, { blocks, read: [] });
    }
    from.end();
  }

  /** @throws FormatError where there is no such entry, or it cannot be read */
  entry<T>(table: TableName, number: number, read: (from: ByteReader) => T): T {
    const { blocks, read: known } = this.tables.get(table)!;
    if (number >= blocks.length) throw damaged();
    if (!(number in known)) {
      const from = new ByteReader(blocks[number]);
      const value = read(from);
      from.end();
      known[number] = value;
    }
    return known[number] as T;
  }

  /** @throws FormatError where it is not of this shape */
  json<T>(number: number, schema: z.ZodType<T>): T {
    return checkedJson(
      this.entry('json', number, (from) => from.rest()),
      schema,
    );
  }
}
