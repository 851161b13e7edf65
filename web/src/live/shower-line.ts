import {
  LIVE_ENDS,
  LIVE_KEY_HEADER,
  SHOWN,
  toShower,
  type LivePage,
  type ShownKind,
  type ToShower,
} from '@kite-trail/core/contract/live';
import { backOffMs } from '../outbox/policy';
import { call, Refused } from '../server/call';
import type { Line } from './shower';

/** A line that holds more than this is given nothing new. */
const MOST_WAITING_BYTES = 64 * 1024;
const LOOKED_EVERY_MS = 33;
/** So many sockets that never open, though the school is there: something on the way lets none through. */
const MOST_UNOPENED = 2;
/** The school hears this often of a window that keeps no connection open. */
const ALIVE_EVERY_MS = 10_000;

interface Hears {
  /** @param isNew whoever hears on the line knows nothing yet */
  ready(isNew: boolean): void;
  told(news: ToShower): void;
  /** It is not there just now; it is tried again. */
  lost(): void;
  /** @param why one of {@link LIVE_ENDS} */
  ended(why: number): void;
}

/** The line by which a window shows a page: a socket, or one request after the other where something on the way lets no socket through. */
export class ShowerLine implements Line {
  private socket: WebSocket | null = null;
  /** The school has looked at the key. */
  private isLetIn = false;
  private unopened = 0;
  private failed = 0;
  private isPosting = false;
  private isAsking = false;
  private isOver = false;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly page: LivePage,
    private readonly hears: Hears,
  ) {
    this.connect();
  }

  get isReady(): boolean {
    if (this.isPosting) return !this.isAsking;
    if (!this.isLetIn || this.socket?.readyState !== WebSocket.OPEN) return false;
    if (this.socket.bufferedAmount <= MOST_WAITING_BYTES) return true;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.hears.ready(false), LOOKED_EVERY_MS);
    return false;
  }

  say(kind: ShownKind, bytes: Uint8Array<ArrayBuffer>): void {
    if (this.isPosting) return void this.post(kind, bytes);
    const message = new Uint8Array(1 + bytes.length);
    message[0] = kind;
    message.set(bytes, 1);
    this.socket?.send(message);
  }

  /** Tries at once, such as when the network is back. */
  retry(): void {
    if (this.failed === 0 || this.isOver || this.isPosting) return;
    clearTimeout(this.timer);
    this.connect();
  }

  stop(): void {
    this.isOver = true;
    clearTimeout(this.timer);
    this.forget();
  }

  private forget(): void {
    const { socket } = this;
    this.socket = null;
    this.isLetIn = false;
    socket?.close();
  }

  private connect(): void {
    // What is tried already is given up: there is one socket at a time.
    this.forget();
    const { token, key } = this.page;
    const address = new URL(`/api/followed/${token}/show`, location.href);
    address.protocol = address.protocol.replace('http', 'ws');
    const socket = new WebSocket(address);
    this.socket = socket;
    let isOpened = false;
    socket.onopen = () => {
      isOpened = true;
      this.unopened = this.failed = 0;
      socket.send(key);
    };
    socket.onmessage = ({ data }) => {
      if (this.socket !== socket) return;
      this.hears.told(toShower.parse(JSON.parse(String(data))));
      if (this.isLetIn) return;
      this.isLetIn = true;
      this.hears.ready(true);
    };
    socket.onclose = ({ code }) => {
      if (this.isOver || this.socket !== socket) return;
      this.isLetIn = false;
      if (code === LIVE_ENDS.over || code === LIVE_ENDS.elsewhere) return this.end(code);
      this.hears.lost();
      if (!isOpened) this.unopened++;
      void this.again();
    };
  }

  /** Finds out whether the school is there: then it is something on the way that lets no socket through. */
  private async again(): Promise<void> {
    if (this.unopened >= MOST_UNOPENED && (await this.asked(SHOWN.alive, NOTHING))) {
      if (this.isOver) return;
      this.isPosting = true;
      this.hears.ready(true);
      return this.stayAlive();
    }
    this.later(() => this.connect());
  }

  private later(again: () => void): void {
    if (this.isOver) return;
    this.failed++;
    this.timer = setTimeout(again, backOffMs(this.failed, Math.random()));
  }

  private stayAlive(): void {
    this.timer = setTimeout(() => {
      if (!this.isAsking) void this.post(SHOWN.alive, NOTHING);
      this.stayAlive();
    }, ALIVE_EVERY_MS);
  }

  private async post(kind: ShownKind, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
    this.isAsking = true;
    const isTaken = await this.asked(kind, bytes);
    if (this.isOver) return;
    if (!isTaken) {
      this.hears.lost();
      await new Promise((resolve) => setTimeout(resolve, backOffMs(++this.failed, Math.random())));
    } else this.failed = 0;
    this.isAsking = false;
    // What was lost on the way is told anew, with all that lies beneath.
    if (!this.isOver) this.hears.ready(!isTaken);
  }

  private async asked(kind: ShownKind, bytes: Uint8Array<ArrayBuffer>): Promise<boolean> {
    try {
      const headers = { [LIVE_KEY_HEADER]: this.page.key };
      const answer = await call('POST', `/followed/${this.page.token}/sights/${kind}`, bytes, headers);
      this.hears.told(toShower.parse(await answer.json()));
      return true;
    } catch (error) {
      if (error instanceof Refused && error.code === 'over') this.end(LIVE_ENDS.over);
      if (error instanceof Refused && error.code === 'shown-elsewhere') this.end(LIVE_ENDS.elsewhere);
      return false;
    }
  }

  private end(why: number): void {
    if (this.isOver) return;
    this.stop();
    this.hears.ended(why);
  }
}

const NOTHING = new Uint8Array(1);
