import { LIVE_ENDS, type ShownKind, type ToShower } from '@kite-trail/core/contract/live';
import { conflict } from '../http/problem';
import type { Relay, Shower } from './relay';

/** A window that says nothing for so long is gone; it says that it is there every ten seconds. */
const GONE_AFTER_MS = 30_000;

/** A window that shows a page by one request after the other. */
class PostingShower implements Shower {
  endedFor: number | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    readonly key: string,
    private readonly gone: () => void,
  ) {}

  /** What it is told, it reads in the answers. */
  tell(): void {}

  end(why: number): void {
    this.endedFor = why;
    clearTimeout(this.timer);
  }

  heard(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(this.gone, GONE_AFTER_MS).unref();
  }
}

/** Windows that show pages where no connection can be kept open, such as behind some proxies. */
export class PostingShowers {
  private readonly showers = new Map<string, PostingShower>();

  constructor(private readonly relay: Relay) {}

  /** @throws RequestProblem where another window has come in its place */
  take(token: string, key: string, kind: ShownKind, sight: Uint8Array): ToShower {
    const shower = this.shower(token, key);
    if (shower.endedFor === LIVE_ENDS.elsewhere)
      throw conflict('shown-elsewhere', 'Another window shows its page now.');
    shower.heard();
    return this.relay.take(token, kind, sight);
  }

  private shower(token: string, key: string): PostingShower {
    const known = this.showers.get(token);
    if (known?.key === key) return known;
    const shower: PostingShower = new PostingShower(key, () => {
      this.relay.pause(token, shower);
      if (this.showers.get(token) === shower) this.showers.delete(token);
    });
    this.showers.set(token, shower);
    this.relay.begin(token, shower);
    return shower;
  }
}
