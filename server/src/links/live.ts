import { randomBytes } from 'node:crypto';
import { readForm, type FormValue } from '@kite-trail/core/contract/forms';
import { USUAL_LINK } from '@kite-trail/core/contract/link';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { LinkRow } from '../database/rows';

export type LinkRules = FormValue<'link-rules'>;

/** 192 random bits: a link cannot be guessed. */
const TOKEN_BYTES = 24;
export const newToken = (): string => randomBytes(TOKEN_BYTES).toString('base64url');

export const rulesOf = ({ rules }: Pick<LinkRow, 'rules'>): LinkRules =>
  rules === null ? USUAL_LINK : readForm('link-rules', rules);

/** Of some links, those that can be watched. */
export const live = (links: Knex.QueryBuilder): Knex.QueryBuilder =>
  links
    .whereNull('links.withdrawn_at')
    .where((query) => void query.whereNull('links.ends_at').orWhere('links.ends_at', '>', new Date().toISOString()));

/** Links of a lesson that can be watched, the first made first. */
export const liveLinks = (db: Knex, lesson: LessonId): Knex.QueryBuilder =>
  live(db('links').where({ lesson_id: lesson })).orderBy(['made_at', 'token']);

/** The link that is a lesson's own: the first that leads to all of it. */
export const mainLink = (db: Knex, lesson: LessonId): Promise<LinkRow | undefined> =>
  liveLinks(db, lesson).whereNull('part').first();

export const hasEnded = ({ ends_at }: Pick<LinkRow, 'ends_at'>): boolean =>
  ends_at !== null && ends_at <= new Date().toISOString();
