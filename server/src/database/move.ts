import { createHash } from 'node:crypto';
import type { Knex } from 'knex';
import { inSnapshot, inTransaction } from './transaction';

/** Every table with what its rows are ordered by; none before what it refers to. */
export const TABLES = {
  teachers: ['id'],
  sessions: ['id_hash'],
  tickets: ['code_hash'],
  kept_answers: ['teacher_id', 'key'],
  assets: ['id'],
  asset_chunks: ['asset_id', 'n'],
  uploads: ['teacher_id', 'asset_id'],
  teacher_sheets: ['teacher_id', 'asset_id', 'page_index'],
  lessons: ['id'],
  pages: ['lesson_id', 'id'],
  classes: ['id'],
  tasks: ['id'],
  students: ['id'],
  class_lessons: ['class_id', 'lesson_id'],
  lesson_texts: ['lesson_id', 'n'],
  lesson_words: ['lesson_id'],
  favourites: ['teacher_id', 'lesson_id'],
  lesson_assets: ['lesson_id', 'asset_id'],
  lesson_changes: ['lesson_id', 'revision'],
  programmes: ['lesson_id', 'n'],
  versions: ['id'],
  takes: ['id'],
  take_parts: ['take_id', 'n'],
  page_templates: ['id'],
  template_assets: ['template_id', 'asset_id'],
  publications: ['id'],
  publication_assets: ['publication_id', 'asset_id'],
  publication_sheets: ['publication_id', 'asset_id', 'page_index'],
  links: ['token'],
  school: ['id'],
  visits: ['id'],
  visit_sums: ['token', 'publication_id'],
  visit_days: ['token', 'day'],
  questions: ['id'],
  mails: ['id'],
  lesson_colleagues: ['lesson_id', 'teacher_id'],
  identities: ['issuer', 'subject'],
  drive_accounts: ['teacher_id', 'drive'],
  live_pages: ['teacher_id'],
  live_files: ['token', 'asset_id', 'page_index'],
  replies: ['id'],
  hand_ins: ['id'],
  given_pages: ['lesson_id', 'page_id'],
  student_sessions: ['id_hash'],
} as const satisfies Record<string, readonly string[]>;
type Table = keyof typeof TABLES;

const TABLE_NAMES = Object.keys(TABLES) as Table[];
/** Parts of files are a quarter of a megabyte each. */
const ROWS_AT_ONCE = 40;

type Row = Record<string, unknown>;

/** A school cannot be moved: nothing was changed. */
export class CannotMove extends Error {
  override readonly name = 'CannotMove';
}

/**
 * Copies a school from one database into another, which must be empty, and reads it back from there: by the hashes of all rows it
 * is the same. All of it arrives, or nothing.
 * @returns how many rows each table has
 * @throws CannotMove when there is a school already, or what was read back is not what was written
 */
export function moveSchool(from: Knex, to: Knex): Promise<Map<Table, number>> {
  return inSnapshot(from, (source) =>
    inTransaction(to, async (target) => {
      const moved = new Map<Table, number>();
      for (const table of TABLE_NAMES) {
        if (await target(table).first()) throw new CannotMove('The database to move to is in use already.');
      }
      for (const table of TABLE_NAMES) {
        for await (const rows of rowsOf(source, table)) await target(table).insert(rows);
        const [before, after] = [await digestOf(source, table), await digestOf(target, table)];
        if (before.hash !== after.hash) throw new CannotMove(`“${table}” did not arrive as it was. Nothing was moved.`);
        moved.set(table, after.count);
      }
      return moved;
    }),
  );
}

async function* rowsOf(db: Knex, table: Table): AsyncGenerator<Row[]> {
  for (let offset = 0; ; offset += ROWS_AT_ONCE) {
    const rows = await db<Row>(table)
      .orderBy([...TABLES[table]])
      .limit(ROWS_AT_ONCE)
      .offset(offset);
    if (rows.length === 0) return;
    yield rows;
  }
}

/** A hash of all rows of a table, in whatever order the database sorts letters. */
async function digestOf(db: Knex, table: Table): Promise<{ count: number; hash: string }> {
  const hashes: string[] = [];
  for await (const rows of rowsOf(db, table)) hashes.push(...rows.map(hashOf));
  return { count: hashes.length, hash: createHash('sha256').update(hashes.sort().join()).digest('hex') };
}

function hashOf(row: Row): string {
  const told = Object.keys(row)
    .sort()
    .map((column) => [column, toldOf(row[column])]);
  return createHash('sha256').update(JSON.stringify(told)).digest('hex');
}

/** SQLite knows no truth values, and says 1 and 0. */
function toldOf(value: unknown): unknown {
  if (Buffer.isBuffer(value)) return value.toString('base64');
  return typeof value === 'boolean' ? Number(value) : value;
}
