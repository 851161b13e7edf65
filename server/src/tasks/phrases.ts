import { phrases } from '@kite-trail/core/contract/task';
import type { Knex } from 'knex';
import type { TeacherRow } from '../database/rows';

/** What a teacher often writes to students. */
export const phrasesOf = ({ phrases: json }: Pick<TeacherRow, 'phrases'>): string[] =>
  json === null ? [] : phrases.parse(JSON.parse(json));

export const keepPhrases = (db: Knex, { id }: TeacherRow, kept: readonly string[]): Promise<unknown> =>
  db('teachers')
    .where({ id })
    .update({ phrases: JSON.stringify(kept) });
