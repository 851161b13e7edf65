import { mayPass, Refused, Unreachable } from '../server/call';

/** What is owed waits, and for what. */
export type WaitsFor =
  | { for: 'network' }
  | { for: 'sign-in' }
  /** The school’s disk is full, or its server cannot do it just now; in its words. */
  | { for: 'school'; message: string };

/** What is done about an answer that is no yes. */
export type Verdict = { wait: WaitsFor } | { setAside: string };

/** This device can no longer read what it had kept. */
export class Unreadable extends Error {
  override readonly name = 'Unreadable';

  constructor() {
    super('This device can no longer read what it had kept.');
  }
}

/** One policy for all: what may pass is waited for, any other refusal is set aside. */
export function verdictOn(error: unknown): Verdict {
  if (error instanceof Unreachable) return { wait: { for: 'network' } };
  if (error instanceof Unreadable) return { setAside: error.message };
  if (!(error instanceof Refused)) return { wait: { for: 'school', message: messageOf(error) } };
  const { status, code, message } = error;
  if (status === 401) return { wait: { for: 'sign-in' } };
  const passes = mayPass(error) || code === 'being-recorded';
  return passes ? { wait: { for: 'school', message } } : { setAside: message };
}

const messageOf = (error: unknown) => (error instanceof Error ? error.message : String(error));

const FIRST_WAIT_MS = 500;
const LONGEST_WAIT_MS = 8000;

/**
 * How long to wait before the next try: twice as long each time, and not all devices at once.
 * @param failed how many tries have failed, from 1
 * @param random from 0 to 1
 */
export function backOffMs(failed: number, random: number): number {
  const longest = Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (failed - 1));
  return longest * (0.5 + random / 2);
}
