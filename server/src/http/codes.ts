import { randomInt } from 'node:crypto';
import { CODE_LENGTH, CODE_LETTERS } from '@kite-trail/core/contract/live';
import type { Knex } from 'knex';

/** Random letters and digits that nobody takes for one another. */
export const randomLetters = (count: number): string =>
  Array.from({ length: count }, () => CODE_LETTERS[randomInt(CODE_LETTERS.length)]).join('');

/** A short code that nothing else in a table has. */
export async function freeCode(db: Knex, table: 'live_pages' | 'tasks'): Promise<string> {
  for (;;) {
    const code = randomLetters(CODE_LENGTH);
    if (!(await db(table).where({ code }).first('code'))) return code;
  }
}
