import { LIVE_ENDS, LIVE_NUMBER_BYTES, liveState, type LiveState } from '@kite-trail/core/contract/live';

/** So many sockets that never open, though the school is there: something on the way lets none through. */
const MOST_UNOPENED = 2;
const FIRST_WAIT_MS = 500;
const LONGEST_WAIT_MS = 10_000;

interface Hears {
  told(state: LiveState): void;
  shown(sight: Uint8Array): void;
  /** There is no line just now; it is tried again. */
  lost(): void;
  /** @param why one of {@link LIVE_ENDS} */
  ended(why: number): void;
}

/**
 * The line by which a page is followed: a socket, or server-sent events where something on the way lets no socket through. After a
 * break it goes on where it was.
 */
export class FollowerLine {
  private run = '';
  private n = 0;
  private failed = 0;
  private unopened = 0;
  private isOver = false;
  private usesEvents = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private close = (): void => {};

  /** @param isThere finds out whether the page is still shown under its code @throws where the school cannot be asked */
  constructor(
    private readonly token: string,
    private readonly isThere: () => Promise<boolean>,
    private readonly hears: Hears,
  ) {
    this.connect();
  }

  /** Tries at once, such as when the network is back. */
  retry(): void {
    if (this.failed > 0 && !this.isOver) this.connect();
  }

  /** What was shown does not fit to what was known: all is asked for anew. */
  forget(): void {
    this.run = '';
    this.connect();
  }

  stop(): void {
    this.isOver = true;
    clearTimeout(this.timer);
    this.close();
  }

  private connect(): void {
    // What is tried already is given up: there is one line at a time.
    this.close();
    clearTimeout(this.timer);
    const known = this.run === '' ? '' : `?run=${this.run}&n=${this.n}`;
    if (this.usesEvents) this.listen(`/api/followed/${this.token}/events${known}`);
    else this.open(`/api/followed/${this.token}/follow${known}`);
  }

  private open(path: string): void {
    const address = new URL(path, location.href);
    address.protocol = address.protocol.replace('http', 'ws');
    const socket = new WebSocket(address);
    socket.binaryType = 'arraybuffer';
    let isOpened = false;
    let isLeft = false;
    this.close = () => {
      isLeft = true;
      socket.close();
    };
    socket.onopen = () => {
      isOpened = true;
      this.failed = this.unopened = 0;
    };
    socket.onmessage = ({ data }) => {
      if (isLeft) return;
      if (typeof data === 'string') this.told(JSON.parse(data));
      else this.shown(new Uint8Array(data as ArrayBuffer));
    };
    socket.onclose = ({ code }) => {
      if (isLeft) return;
      if (code === LIVE_ENDS.over || code === LIVE_ENDS.full) return this.end(code);
      if (!isOpened) this.unopened++;
      void this.again();
    };
  }

  private listen(path: string): void {
    const events = new EventSource(path);
    this.close = () => events.close();
    events.onopen = () => (this.failed = 0);
    events.onmessage = ({ data }) => {
      const told = JSON.parse(String(data)) as { shown?: string; end?: number };
      if (told.end !== undefined) this.end(told.end);
      else if (told.shown !== undefined) this.shown(Uint8Array.from(atob(told.shown), (one) => one.charCodeAt(0)));
      else this.told(told);
    };
    events.onerror = () => {
      events.close();
      void this.again();
    };
  }

  private told(said: unknown): void {
    const state = liveState.parse(said);
    // What was counted in another run is of no use.
    if (state.run !== this.run) this.n = 0;
    this.run = state.run;
    this.hears.told(state);
  }

  private shown(message: Uint8Array): void {
    this.n = new DataView(message.buffer, message.byteOffset).getUint32(0);
    this.hears.shown(message.subarray(LIVE_NUMBER_BYTES));
  }

  private async again(): Promise<void> {
    if (this.isOver) return;
    this.hears.lost();
    try {
      if (!(await this.isThere())) return this.end(LIVE_ENDS.over);
      // The school is there, and hears of no socket.
      if (this.unopened >= MOST_UNOPENED) this.usesEvents = true;
    } catch {
      // It cannot be asked just now.
    }
    if (this.isOver) return;
    clearTimeout(this.timer);
    const waitMs = Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** this.failed++) * (0.5 + Math.random() / 2);
    this.timer = setTimeout(() => this.connect(), waitMs);
  }

  private end(why: number): void {
    if (this.isOver) return;
    this.stop();
    this.hears.ended(why);
  }
}
