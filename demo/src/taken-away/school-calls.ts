import { PROTOCOL } from '@kite-trail/core/contract/protocol';

/** Calls the school as a teacher's browser does. */
export class SchoolCalls {
  private cookie = '';

  private constructor(readonly origin: string) {}

  static async signIn(origin: string, { email, password }: { email: string; password: string }): Promise<SchoolCalls> {
    const calls = new SchoolCalls(origin);
    const answer = await calls.ask('POST', '/session', { email, password });
    calls.cookie = answer.headers.getSetCookie()[0].split(';')[0];
    return calls;
  }

  /** @throws Error where the school refuses */
  async ask(method: string, path: string, body?: object): Promise<Response> {
    const isBytes = body instanceof Uint8Array;
    const answer = await fetch(`${this.origin}/api${path}`, {
      method,
      headers: {
        [PROTOCOL.header]: String(PROTOCOL.version),
        ...(this.cookie && { cookie: this.cookie }),
        ...(body && { 'content-type': isBytes ? 'application/octet-stream' : 'application/json' }),
      },
      body: body && (isBytes ? new Uint8Array(body) : JSON.stringify(body)),
    });
    if (!answer.ok) throw new Error(`${method} ${path} was refused: ${await answer.text()}`);
    return answer;
  }

  async bytes(path: string): Promise<Uint8Array<ArrayBuffer>> {
    return new Uint8Array(await (await this.ask('GET', path)).arrayBuffer());
  }
}
