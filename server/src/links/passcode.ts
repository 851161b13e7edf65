import { createHash } from 'node:crypto';
import { verify } from 'argon2';
import type { LinkRow } from '../database/rows';
import { newToken } from './live';
import { RequestProblem } from '../http/problem';

/**
 * What opens a link with a passcode: nobody can work it out who does not know the passcode's hash, and it opens nothing any more once
 * the passcode is another.
 */
export const passOf = ({ token, passcode_hash }: LinkRow): string =>
  createHash('sha256').update(`${token} ${passcode_hash}`).digest('base64url');

/** @throws RequestProblem where the link asks for a passcode, and what was sent is no pass */
export function checkPass(link: LinkRow, sent: unknown): void {
  if (link.passcode_hash === null || sent === passOf(link)) return;
  throw new RequestProblem(403, 'passcode', 'This lesson has a passcode. Your teacher knows it.');
}

/** Stands in the place of a passcode's hash until there is one: no passcode has it, and nobody can guess it. */
export const noPasscode = (): string => `${NONE_YET}${newToken()}`;
const NONE_YET = '*';

export const isPasscodeOf = async ({ passcode_hash }: LinkRow, passcode: string): Promise<boolean> =>
  passcode_hash === null || (!passcode_hash.startsWith(NONE_YET) && verify(passcode_hash, passcode.trim()));
