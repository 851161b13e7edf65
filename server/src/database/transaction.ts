import type { Knex } from 'knex';

/** Reads what belongs together as it was at one moment. */
export const inSnapshot = <Result>(db: Knex, read: (trx: Knex) => Promise<Result>): Promise<Result> =>
  db.transaction(read, isPostgres(db) ? { isolationLevel: 'repeatable read', readOnly: true } : {});

export const isPostgres = (db: Knex): boolean => (db.client as { config: { client: string } }).config.client === 'pg';

/** Does all of a piece of work, or nothing of it. @throws what the work throws */
export async function inTransaction<Result>(db: Knex, work: (trx: Knex) => Promise<Result>): Promise<Result> {
  const failure: { error?: unknown } = {};
  try {
    return await db.transaction((trx) =>
      work(trx).catch((error: unknown) => {
        failure.error = error;
        throw error;
      }),
    );
  } catch (error) {
    // A full disk has ended SQLite's transaction already: that there is none to be ended is not what went wrong.
    throw failure.error ?? error;
  }
}
