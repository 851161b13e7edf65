import {
  LIVE_ENDS,
  LIVE_NUMBER_BYTES,
  SHOWN,
  type LiveState,
  type ShownKind,
  type ToShower,
} from '@kite-trail/core/contract/live';
import { nanoid } from 'nanoid';

/** Somebody to whom a page is shown. */
export interface Follower {
  /** @param message what was shown, behind its number (`messageOf`) */
  show(message: Uint8Array): void;
  tell(state: LiveState): void;
  /** @param why one of {@link LIVE_ENDS} */
  end(why: number): void;
  /** How much of what was shown is still on its way. */
  readonly waitingBytes: number;
}

/** The window that shows a page. */
export interface Shower {
  tell(news: ToShower): void;
  /** @param why one of {@link LIVE_ENDS} */
  end(why: number): void;
}

/** What a follower knows already, who comes back after a break. */
export interface Known {
  run: string;
  n: number;
}

interface Shown {
  /** Counts what was shown within a run. */
  n: number;
  message: Uint8Array;
}

/** What followers are shown: the number as four bytes (big-endian), and the bytes of the sight. It is made once for all of them. */
function messageOf(n: number, sight: Uint8Array): Shown {
  const message = Buffer.allocUnsafe(LIVE_NUMBER_BYTES + sight.length);
  message.writeUInt32BE(n);
  message.set(sight, LIVE_NUMBER_BYTES);
  return { n, message };
}

/** A follower whose line holds more than this is shown nothing until it has come. */
const MOST_WAITING_BYTES = 512 * 1024;
const MOST_FOLLOWERS = 500;
/** More than this is not laid on top of the last whole sight. */
const MOST_LATER_BYTES = 256 * 1024;
const MOST_LATER = 2000;
/** It is looked this often whether slow lines are free. */
const LOOKED_EVERY_MS = 250;

/** One page that is shown live: what a window shows is passed on to all who follow, as it comes. */
class Relayed {
  readonly followers = new Set<Follower>();
  shower: Shower | null = null;
  private run = nanoid(8);
  private n = 0;
  private whole: Shown | null = null;
  private later: Shown[] = [];
  private laterBytes = 0;
  private wantsCheckpoint = false;
  /** Whose line is slow; while there are any, it is looked whether they are free. */
  private readonly behind = new Set<Follower>();
  private looking: ReturnType<typeof setInterval> | null = null;

  get state(): LiveState {
    return { run: this.run, isShown: this.shower !== null };
  }

  /** What one window shows has nothing to do with what another one did. */
  begin(shower: Shower): void {
    this.shower?.end(LIVE_ENDS.elsewhere);
    this.shower = shower;
    this.run = nanoid(8);
    this.n = 0;
    this.whole = null;
    this.forgetLater();
    this.tellFollowers();
    this.tellShower();
  }

  take(kind: ShownKind, sight: Uint8Array): void {
    if (kind === SHOWN.alive) return;
    if (kind === SHOWN.checkpoint) {
      this.whole = messageOf(this.n, sight);
      return this.forgetLater();
    }
    const shown = messageOf(++this.n, sight);
    if (kind === SHOWN.whole) {
      this.whole = shown;
      this.forgetLater();
    } else {
      this.later.push(shown);
      this.laterBytes += sight.length;
    }
    for (const follower of this.followers) this.showTo(follower, shown);
    // A server that begins anew knows nothing of what was shown before.
    const isMuch = this.whole === null || this.laterBytes > Math.max(MOST_LATER_BYTES, this.whole?.message.length ?? 0);
    if ((isMuch || this.later.length > MOST_LATER) && !this.wantsCheckpoint) {
      this.wantsCheckpoint = true;
      this.tellShower();
    }
  }

  /** @returns whether there was room */
  join(follower: Follower, known: Known | null): boolean {
    if (this.followers.size >= MOST_FOLLOWERS) return false;
    this.followers.add(follower);
    follower.tell(this.state);
    this.catchUp(follower, known);
    this.tellShower();
    return true;
  }

  leave(follower: Follower): void {
    this.lookNoMoreAfter(follower);
    if (this.followers.delete(follower)) this.tellShower();
  }

  /** The window that shows the page is gone for now. */
  pause(shower: Shower): void {
    if (this.shower !== shower) return;
    this.shower = null;
    this.tellFollowers();
  }

  end(why: number): void {
    this.shower?.end(why);
    this.shower = null;
    for (const follower of this.followers) {
      this.lookNoMoreAfter(follower);
      follower.end(why);
    }
    this.followers.clear();
  }

  /** Whose line is slow is shown all at once when it is free: nobody else waits for it. */
  private showTo(follower: Follower, shown: Shown): void {
    if (this.behind.has(follower)) return;
    if (follower.waitingBytes <= MOST_WAITING_BYTES) return follower.show(shown.message);
    this.behind.add(follower);
    this.looking ??= setInterval(() => this.showBehind(), LOOKED_EVERY_MS).unref();
  }

  private showBehind(): void {
    for (const follower of this.behind) {
      if (follower.waitingBytes > 0) continue;
      this.lookNoMoreAfter(follower);
      this.catchUp(follower, null);
    }
  }

  private lookNoMoreAfter(follower: Follower): void {
    this.behind.delete(follower);
    if (this.behind.size > 0 || !this.looking) return;
    clearInterval(this.looking);
    this.looking = null;
  }

  private catchUp(follower: Follower, known: Known | null): void {
    if (!this.whole) return;
    const from = known?.run === this.run && known.n >= this.whole.n ? known.n : null;
    if (from === null) follower.show(this.whole.message);
    for (const { n, message } of this.later) if (from === null || n > from) follower.show(message);
  }

  private forgetLater(): void {
    this.later = [];
    this.laterBytes = 0;
    this.wantsCheckpoint = false;
  }

  private tellFollowers(): void {
    for (const follower of this.followers) follower.tell(this.state);
  }

  tellShower(): void {
    this.shower?.tell(this.news);
  }

  get news(): ToShower {
    return { followers: this.followers.size, wantsCheckpoint: this.wantsCheckpoint };
  }
}

/**
 * Passes on what is shown live, by the page's token. It lives in memory alone: a server that begins anew is shown all again by the
 * windows that come back.
 */
export class Relay {
  private readonly pages = new Map<string, Relayed>();

  begin(token: string, shower: Shower): void {
    this.page(token).begin(shower);
  }

  /** @returns what the window is told that cannot be told by itself */
  take(token: string, kind: ShownKind, sight: Uint8Array): ToShower {
    const page = this.page(token);
    page.take(kind, sight);
    return page.news;
  }

  pause(token: string, shower: Shower): void {
    this.pages.get(token)?.pause(shower);
    this.forgetUnused(token);
  }

  /** @returns whether there was room */
  join(token: string, follower: Follower, known: Known | null): boolean {
    return this.page(token).join(follower, known);
  }

  leave(token: string, follower: Follower): void {
    this.pages.get(token)?.leave(follower);
    this.forgetUnused(token);
  }

  isShownBy(token: string, shower: Shower): boolean {
    return this.pages.get(token)?.shower === shower;
  }

  /** The page is shown no more. @param why one of {@link LIVE_ENDS} */
  end(token: string, why: number): void {
    this.pages.get(token)?.end(why);
    this.pages.delete(token);
  }

  private page(token: string): Relayed {
    const known = this.pages.get(token);
    if (known) return known;
    const page = new Relayed();
    this.pages.set(token, page);
    return page;
  }

  private forgetUnused(token: string): void {
    const page = this.pages.get(token);
    if (page && page.shower === null && page.followers.size === 0) this.pages.delete(token);
  }
}
