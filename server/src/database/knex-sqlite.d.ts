/** Knex's client for SQLite, as far as `sqlite-client` builds on it. */
declare module 'knex/lib/dialects/better-sqlite3/index.js' {
  import { Knex } from 'knex';

  export default class BetterSqlite3Client extends Knex.Client {
    connectionSettings: { filename: string };
    acquireRawConnection(): Promise<unknown>;
    destroyRawConnection(connection: unknown): Promise<void>;
    validateConnection(connection: unknown): Promise<boolean>;
    _query(connection: unknown, asked: unknown): Promise<unknown>;
    _formatBindings(bindings: readonly unknown[]): unknown[];
  }
}
