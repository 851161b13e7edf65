import { once } from 'node:events';
import { Worker } from 'node:worker_threads';
import BetterSqlite3Client from 'knex/lib/dialects/better-sqlite3/index.js';
import { threadProgram } from '../place';

export interface Settings {
  filename: string;
}

/** What is asked of a connection, and what it says. Answers come in the order of the questions. */
export interface Query {
  sql: string;
  bindings: readonly unknown[];
}
interface Done {
  changes: number;
  lastInsertRowid: number | bigint;
}
export type Said = { rows: object[] } | { done: Done } | { failed: { message: string; code?: string } };

/** A message takes along all memory that its bytes are a part of: of a part of a large file, the part alone is to go. */
const withoutNeighbours = (binding: unknown): unknown =>
  binding instanceof Uint8Array && binding.byteLength < binding.buffer.byteLength ? new Uint8Array(binding) : binding;

/** What SQLite could not do, and its code for why. */
class SqliteError extends Error {
  override readonly name = 'SqliteError';

  constructor(
    message: string,
    readonly code?: string,
  ) {
    super(message);
  }
}

/** A connection whose thread is elsewhere. */
class SqliteConnection {
  private readonly worker: Worker;
  private readonly waiting: { resolve: (said: Said) => void; reject: (error: unknown) => void }[] = [];
  private broken: unknown = null;

  constructor(settings: Settings) {
    const { file, data } = threadProgram('sqlite-thread');
    this.worker = new Worker(file, { workerData: { ...data, ...settings } });
    this.worker.on('message', (said: Said) => {
      this.waiting.shift()!.resolve(said);
      // An idle connection keeps no program from ending.
      if (this.waiting.length === 0) this.worker.unref();
    });
    this.worker.on('error', (error) => this.breakOff(error));
    this.worker.on('exit', () => this.breakOff(new Error('This connection to the database has ended.')));
  }

  private breakOff(why: unknown): void {
    this.broken ??= why;
    for (const { reject } of this.waiting.splice(0)) reject(why);
  }

  get isOpen(): boolean {
    return this.broken === null;
  }

  async ask(query: Query): Promise<{ rows: object[] } | { done: Done }> {
    if (this.broken) throw this.broken;
    const said = await new Promise<Said>((resolve, reject) => {
      this.waiting.push({ resolve, reject });
      this.worker.ref();
      this.worker.postMessage({ ...query, bindings: query.bindings.map(withoutNeighbours) });
    });
    if ('failed' in said) throw new SqliteError(said.failed.message, said.failed.code);
    return said;
  }

  async close(): Promise<void> {
    if (this.broken) return;
    this.worker.ref();
    this.worker.postMessage('close');
    await once(this.worker, 'exit');
  }
}

/** Knex's own client for SQLite, with its connections in threads of their own. */
export class ThreadedSqlite extends BetterSqlite3Client {
  override async acquireRawConnection(): Promise<SqliteConnection> {
    const connection = new SqliteConnection({ filename: this.connectionSettings.filename });
    // It says here, and not at the first query, that there is no such file.
    await connection.ask({ sql: 'SELECT 1', bindings: [] });
    return connection;
  }

  override destroyRawConnection(connection: SqliteConnection): Promise<void> {
    return connection.close();
  }

  override async validateConnection(connection: SqliteConnection): Promise<boolean> {
    return connection.isOpen;
  }

  override async _query(connection: SqliteConnection, asked: Asked): Promise<Asked> {
    const said = await connection.ask({ sql: asked.sql, bindings: this._formatBindings(asked.bindings) });
    if ('rows' in said) return Object.assign(asked, { response: said.rows.map(withBuffers) });
    const { changes, lastInsertRowid } = said.done;
    return Object.assign(asked, { response: said.done, context: { lastID: lastInsertRowid, changes } });
  }
}

interface Asked {
  sql: string;
  bindings: readonly unknown[];
}

/** Bytes come from another thread as plain arrays. */
function withBuffers(row: object): object {
  const values = row as Record<string, unknown>;
  for (const [column, value] of Object.entries(values)) {
    if (value instanceof Uint8Array) values[column] = Buffer.from(value.buffer, value.byteOffset, value.byteLength);
  }
  return values;
}
