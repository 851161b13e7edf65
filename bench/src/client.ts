import { PROTOCOL } from '@kite-trail/core/contract/protocol';
import { nanoid } from 'nanoid';

/** Somebody who asks a school, with their own cookie, and remembers how long each answer took. */
export class Client {
  readonly tookMs: number[] = [];
  private cookie = '';
  private readonly window = nanoid(12);

  constructor(private readonly url: string) {}

  /**
   * @param body bytes, a text that is JSON already, or what is sent as JSON
   * @returns the answer, read to its end
   */
  async ask(method: string, path: string, body?: unknown, more: Record<string, string> = {}): Promise<Answer> {
    const isBytes = body instanceof Uint8Array;
    const headers: Record<string, string> = {
      [PROTOCOL.header]: String(PROTOCOL.version),
      'x-window': this.window,
      ...(this.cookie ? { cookie: this.cookie } : {}),
      ...(body === undefined ? {} : { 'content-type': isBytes ? 'application/octet-stream' : 'application/json' }),
      ...more,
    };
    const asked = performance.now();
    const isSaid = body === undefined || typeof body === 'string';
    const sent = isSaid ? body : isBytes ? Buffer.from(body) : JSON.stringify(body);
    const response = await fetch(`${this.url}/api${path}`, { method, headers, body: sent });
    const bytes = new Uint8Array(await response.arrayBuffer());
    this.tookMs.push(performance.now() - asked);
    this.cookie = response.headers.getSetCookie()[0]?.split(';')[0] ?? this.cookie;
    return { status: response.status, bytes };
  }

  /** @throws when it is refused */
  async text(method: string, path: string, body?: unknown): Promise<string> {
    const { status, bytes } = await this.ask(method, path, body);
    const text = Buffer.from(bytes).toString();
    if (status >= 400) throw new Error(`${method} ${path}: ${status} ${text}`);
    return text;
  }

  async json<T>(method: string, path: string, body?: unknown): Promise<T> {
    const text = await this.text(method, path, body);
    return (text === '' ? undefined : JSON.parse(text)) as T;
  }
}

export interface Answer {
  status: number;
  bytes: Uint8Array;
}
