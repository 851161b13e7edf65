import { randomBytes } from 'node:crypto';
import type { Begun } from './provider';

const KEPT_FOR_MS = 10 * 60_000;
/** More at once are no teachers. */
const MOST = 1000;

/** A sign-in that somebody has begun in a browser, and with which ticket they join, where they do. */
export interface BegunSignIn {
  begun: Begun;
  back: string;
  ticket: string | null;
}

/** Sign-ins that have been begun, for ten minutes, each good once. Whoever begins one before the server starts anew begins again. */
export class BegunSignIns {
  private readonly kept = new Map<string, BegunSignIn & { atMs: number }>();

  constructor(private readonly nowMs: () => number = Date.now) {}

  /** @returns the key by which the browser comes back to it */
  keep(one: BegunSignIn): string {
    const nowMs = this.nowMs();
    for (const [key, { atMs }] of this.kept)
      if (nowMs - atMs > KEPT_FOR_MS || this.kept.size >= MOST) this.kept.delete(key);
    const key = randomBytes(24).toString('base64url');
    this.kept.set(key, { ...one, atMs: nowMs });
    return key;
  }

  take(key: string): BegunSignIn | null {
    const found = this.kept.get(key);
    this.kept.delete(key);
    return found && this.nowMs() - found.atMs <= KEPT_FOR_MS ? found : null;
  }
}
