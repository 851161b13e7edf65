import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setImmediate } from 'node:timers/promises';
import type { Knex } from 'knex';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openDatabase } from './open';

let db: Knex;
beforeAll(async () => {
  db = await openDatabase(join(mkdtempSync(join(tmpdir(), 'kite-trail-sqlite-')), 'test.sqlite'));
});
afterAll(() => db.destroy());

/** Counts to a number, which keeps SQLite busy. */
const countTo = (most: number) =>
  db.raw<{ n: number }[]>(
    'WITH RECURSIVE numbers(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM numbers WHERE n < ?) SELECT max(n) AS n FROM numbers',
    [most],
  );

describe('SQLite in a thread of its own', () => {
  it('holds up nobody who does not ask it', async () => {
    let isBusy = true;
    const counted = countTo(3_000_000).finally(() => (isBusy = false));
    let turns = 0;
    while (isBusy) {
      await setImmediate();
      turns++;
    }
    expect(await counted).toEqual([{ n: 3_000_000 }]);
    expect(turns).toBeGreaterThan(100);
  });

  it('gives bytes, numbers and nothing back as they were', async () => {
    await db.schema.createTable('values', (table) => {
      table.binary('bytes');
      table.bigInteger('whole');
      table.double('part');
      table.boolean('flag');
      table.string('words');
    });
    const row = { bytes: Buffer.from([0, 1, 255]), whole: 2 ** 52, part: 0.1, flag: true, words: 'Föhr ⚓' };
    await db('values').insert([row, { bytes: null, whole: null, part: null, flag: null, words: null }]);
    const [full, empty] = await db('values');
    expect(full).toEqual({ ...row, flag: 1 });
    expect(Buffer.isBuffer(full.bytes)).toBe(true);
    expect(Object.values(empty)).toEqual([null, null, null, null, null]);
  });

  it('says what went wrong by SQLite’s own code, and goes on', async () => {
    await expect(db('nothing-of-the-kind')).rejects.toMatchObject({ code: 'SQLITE_ERROR' });
    const known = { id: 'x', media_type: 'x', size_bytes: 0, created_at: 'x' };
    await db('assets').insert(known);
    await expect(db('assets').insert(known)).rejects.toMatchObject({ code: 'SQLITE_CONSTRAINT_PRIMARYKEY' });
    expect(await countTo(3)).toEqual([{ n: 3 }]);
  });

  it('cannot be opened where there is no folder', async () => {
    await expect(openDatabase('/no/such/folder/school.sqlite')).rejects.toThrow(/directory does not exist/);
  });
});
