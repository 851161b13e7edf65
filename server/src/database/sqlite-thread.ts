import BetterSqlite3 from 'better-sqlite3';
import { parentPort, workerData } from 'node:worker_threads';
import type { Query, Said, Settings } from './sqlite-client';

/**
 * A connection to SQLite in a thread of its own: SQLite waits for the disk where it is called, and a server that waits with it
 * answers nobody meanwhile.
 */
const { filename } = workerData as Settings;
const connection = new BetterSqlite3(filename);
connection.pragma('journal_mode = WAL');
// FULL: what the server has called safe survives a power cut, too.
connection.pragma('synchronous = FULL');
connection.pragma('foreign_keys = ON');

function run({ sql, bindings }: Query): Said {
  try {
    const statement = connection.prepare(sql);
    if (statement.reader) return { rows: statement.all(...bindings) as object[] };
    const { changes, lastInsertRowid } = statement.run(...bindings);
    return { done: { changes, lastInsertRowid } };
  } catch (error) {
    const { message, code } = error as Error & { code?: string };
    return { failed: { message, code } };
  }
}

parentPort!.on('message', (query: Query | 'close') => {
  if (query !== 'close') return parentPort!.postMessage(run(query));
  connection.close();
  parentPort!.close();
});
