import { workerData } from 'node:worker_threads';
import { move, transferableSymbol, valueSymbol } from 'piscina';
import { openToRead } from '../database/open';
import { problemOf } from '../http/answers';
import { doJob, type Asked, type JobName } from './jobs';
import type { Refusal } from './work';

/** Does the jobs it is given, in a thread of its own, with a connection of its own. */
const db = openToRead((workerData as { address: string }).address);

export default async function run({ name, asked }: { name: JobName; asked: Asked<JobName> }): Promise<unknown> {
  const found = await doJob(db, name, asked).catch(refusalOf);
  // Bytes go over to the other thread as they are: they are not copied there while it should answer others.
  return move({ [transferableSymbol]: bytesIn(found), [valueSymbol]: found } as never);
}

/** What is refused is refused on the other side: a thread does not send errors as what they are. */
function refusalOf(error: unknown): Refusal {
  const problem = problemOf(error);
  if (problem.status >= 500) throw error;
  const { status, code, message } = problem;
  return { refused: { status, code, message } };
}

/** The memory of all bytes in a value. A small buffer of Node's shares its memory with others, and is copied. */
function bytesIn(value: unknown): ArrayBuffer[] {
  if (value instanceof Uint8Array) {
    return value.byteLength === value.buffer.byteLength ? [value.buffer as ArrayBuffer] : [];
  }
  return typeof value === 'object' && value !== null ? Object.values(value).flatMap(bytesIn) : [];
}
