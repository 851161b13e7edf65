import knex, { type Knex } from 'knex';
import { types } from 'pg';
import { ThreadedSqlite } from './sqlite-client';
import * as first from './first-migration';
import * as second from './second-migration';
import * as third from './third-migration';
import * as fourth from './fourth-migration';
import * as fifth from './fifth-migration';
import * as sixth from './sixth-migration';
import * as seventh from './seventh-migration';
import * as eighth from './eighth-migration';
import * as ninth from './ninth-migration';
import * as tenth from './tenth-migration';
import * as eleventh from './eleventh-migration';
import * as twelfth from './twelfth-migration';
import * as thirteenth from './thirteenth-migration';
import * as fourteenth from './fourteenth-migration';
import * as fifteenth from './fifteenth-migration';
import * as sixteenth from './sixteenth-migration';
import * as seventeenth from './seventeenth-migration';
import * as eighteenth from './eighteenth-migration';
import * as nineteenth from './nineteenth-migration';
import * as twentieth from './twentieth-migration';

const MIGRATIONS: Record<string, Knex.Migration> = {
  '001-first': first,
  '002-second': second,
  '003-third': third,
  '004-fourth': fourth,
  '005-fifth': fifth,
  '006-sixth': sixth,
  '007-seventh': seventh,
  '008-eighth': eighth,
  '009-ninth': ninth,
  '010-tenth': tenth,
  '011-eleventh': eleventh,
  '012-twelfth': twelfth,
  '013-thirteenth': thirteenth,
  '014-fourteenth': fourteenth,
  '015-fifteenth': fifteenth,
  '016-sixteenth': sixteenth,
  '017-seventeenth': seventeenth,
  '018-eighteenth': eighteenth,
  '019-nineteenth': nineteenth,
  '020-twentieth': twentieth,
};

const migrationSource: Knex.MigrationSource<string> = {
  getMigrations: async () => Object.keys(MIGRATIONS),
  getMigrationName: (name) => name,
  getMigration: async (name) => MIGRATIONS[name],
};

const common: Knex.Config = {
  // What an error says goes to the log: not what anybody wrote.
  compileSqlOnError: false,
};

/** It has one connection, so its transactions follow one another. */
const openSqlite = (filename: string): Knex =>
  knex({
    ...common,
    client: ThreadedSqlite,
    connection: { filename },
    useNullAsDefault: true,
    pool: { min: 1, max: 1 },
  });

const MOST_CONNECTIONS = 10;

function openPostgres(url: string, most: number): Knex {
  // Whole numbers of 64 bits: all of ours, such as samples and bytes, are far below 2^53.
  types.setTypeParser(types.builtins.INT8, Number);
  return knex({ ...common, client: 'pg', connection: url, pool: { min: 0, max: most } });
}

/** Opens a database, which is up to date, to read what may take long, in a thread that may wait for it. */
export const openToRead = (address: string): Knex =>
  isPostgres(address)
    ? openPostgres(address, 1)
    : knex({
        ...common,
        client: 'better-sqlite3',
        connection: { filename: address, options: { readonly: true } },
        useNullAsDefault: true,
      });

const isPostgres = (address: string): boolean => /^postgres(ql)?:/.test(address);

/**
 * Opens the database and brings its tables up to date.
 * @param address a `postgres:` URL, or else a file of SQLite's
 */
export async function openDatabase(address: string): Promise<Knex> {
  const db = isPostgres(address) ? openPostgres(address, MOST_CONNECTIONS) : openSqlite(address);
  try {
    await db.migrate.latest({ migrationSource });
  } catch (error) {
    await db.destroy();
    throw error;
  }
  return db;
}
