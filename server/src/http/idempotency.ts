import { createHash } from 'node:crypto';
import { setImmediate } from 'node:timers/promises';
import { deflateSync, inflateSync } from 'node:zlib';
import { idempotencyKey } from '@kite-trail/core/contract/protocol';
import type { Request } from 'express';
import type { Knex } from 'knex';
import type { KeptAnswerRow } from '../database/rows';
import { badInput, RequestProblem } from './problem';
import { writerOf } from './callers';

/** Bytes that are hashed before somebody else has their turn. */
const HASHED_AT_ONCE = 2 ** 20;
const KEPT_FOR_MS = 7 * 24 * 3600 * 1000;

/**
 * The key by which a request is known again (IETF httpapi, draft-ietf-httpapi-idempotency-key-header), or `null` where it
 * names none. @throws RequestProblem when it is none
 */
export function keyOf(request: Request): string | null {
  const header = request.get(idempotencyKey.HEADER);
  if (header === undefined) return null;
  const key = idempotencyKey.read(header);
  if (key === null) throw badInput('The request’s idempotency key cannot be read.');
  return key;
}

/**
 * Does what a request asks for once. It and its kept answer are in one transaction, so when the answer is lost and the request
 * comes again, with the same key from the same teacher or student within a week, only the answer is repeated. What was refused has
 * changed nothing, and is decided anew.
 * @param trx the request's transaction
 * @throws RequestProblem 401 for a stranger, 422 when the key was used for another request, and what the request itself throws
 */
export async function answerOnce(
  trx: Knex,
  key: string,
  request: Request,
  handle: (trx: Knex) => Promise<unknown>,
): Promise<unknown> {
  const mine = await ownKey(trx, request, key);
  const fingerprint = await fingerprintOf(request);
  const now = Date.now();
  await trx('kept_answers')
    .where('kept_at', '<', new Date(now - KEPT_FOR_MS).toISOString())
    .delete();
  // The key is taken first: the same request at the same time waits here until this one is done.
  const taken = await trx('kept_answers')
    .insert({ ...mine, fingerprint, answer: null, kept_at: new Date(now).toISOString() })
    .onConflict(['teacher_id', 'key'])
    .ignore()
    .returning('key');
  const ours = () => trx<KeptAnswerRow>('kept_answers').where(mine);
  if (taken.length === 0) {
    const kept = (await ours().first())!;
    if (kept.fingerprint !== fingerprint) {
      throw new RequestProblem(422, 'key-used', 'This idempotency key was used for another request.');
    }
    return kept.answer === null ? undefined : JSON.parse(inflateSync(kept.answer).toString());
  }
  const answer = await handle(trx);
  if (answer !== undefined) await ours().update({ answer: deflateSync(JSON.stringify(answer)) });
  return answer;
}

/** Whether a request has come before, by its key. @throws RequestProblem 401 for a stranger, 400 when it is no key */
export async function isAnswered(db: Knex, request: Request): Promise<boolean> {
  const key = keyOf(request);
  if (key === null) return false;
  return (
    (await db('kept_answers')
      .where(await ownKey(db, request, key))
      .first('key')) !== undefined
  );
}

/** Students' answers are kept with their class's teacher, under keys that are no other student's. */
async function ownKey(db: Knex, request: Request, key: string): Promise<Pick<KeptAnswerRow, 'teacher_id' | 'key'>> {
  const { teacher, student } = await writerOf(db, request);
  return { teacher_id: teacher.id, key: student ? `${student.id} ${key}` : key };
}

/** What a request asks for: its route and its body. */
async function fingerprintOf({ method, originalUrl, body }: Request): Promise<string> {
  const hash = createHash('sha256').update(`${method} ${originalUrl}\n`);
  const bytes = Buffer.isBuffer(body) ? body : Buffer.from(JSON.stringify(body) ?? '');
  for (let at = 0; at < bytes.length; at += HASHED_AT_ONCE) {
    if (at > 0) await setImmediate();
    hash.update(bytes.subarray(at, at + HASHED_AT_ONCE));
  }
  return hash.digest('base64');
}
