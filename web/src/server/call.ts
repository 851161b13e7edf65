import { PROTOCOL, idempotencyKey } from '@kite-trail/core/contract/protocol';
import { problem } from '@kite-trail/core/contract/watch';
import { nanoid } from 'nanoid';

/** The server refused, with a message for the teacher. */
export class Refused extends Error {
  override readonly name = 'Refused';

  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

/** The server could not be reached at all. */
export class Unreachable extends Error {
  override readonly name = 'Unreachable';

  constructor() {
    super('The server cannot be reached. Your work is kept on this device and goes on when the network is back.');
  }
}

const TOO_MANY_REQUESTS = 429;
const REQUEST_TIMEOUT = 408;

/** Whether the same may be answered otherwise later, though nobody does anything about it. */
export function mayPass(error: unknown): boolean {
  if (error instanceof Unreachable) return true;
  if (!(error instanceof Refused)) return false;
  const { status } = error;
  return status >= 500 || status === TOO_MANY_REQUESTS || status === REQUEST_TIMEOUT;
}

/** Tells this window's own changes from those of others. */
export const WINDOW_ID = nanoid(12);

/** What each request says of who sends it. */
export const OURS = { [PROTOCOL.header]: String(PROTOCOL.version), 'x-window': WINDOW_ID };

/**
 * The keys of requests whose answer was lost, by what they ask for. Whoever asks for the same again means the same request,
 * and the server repeats its answer.
 */
const unanswered = new Map<string, string>();

/** Asks the server. @throws Refused, Unreachable */
export async function call(
  method: string,
  path: string,
  body?: unknown,
  more: Record<string, string> = {},
): Promise<Response> {
  const binary = body instanceof Uint8Array || body instanceof Blob;
  const headers: Record<string, string> = { ...OURS, ...more };
  if (body !== undefined) headers['content-type'] = binary ? 'application/octet-stream' : 'application/json';
  const sent = body === undefined ? undefined : binary ? (body as Blob) : JSON.stringify(body);
  // Bytes are kept under a name or a number of their own: to keep the same ones again changes nothing.
  if (method === 'GET' || method === 'HEAD' || binary || idempotencyKey.HEADER in more)
    return fetched(method, path, headers, sent);
  const asked = `${method} ${path} ${sent as string}`;
  const key = unanswered.get(asked) ?? nanoid();
  const keyed = { ...headers, [idempotencyKey.HEADER]: idempotencyKey.write(key) };
  let isLost = false;
  try {
    return await fetched(method, path, keyed, sent);
  } catch (error) {
    isLost = error instanceof Unreachable;
    throw error;
  } finally {
    if (isLost) unanswered.set(asked, key);
    else unanswered.delete(asked);
  }
}

async function fetched(
  method: string,
  path: string,
  headers: Record<string, string>,
  body: Blob | string | undefined,
): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, { method, headers, body });
    // An answer that breaks off is a lost one.
    if (response.status === 200) response = new Response(await response.blob(), response);
  } catch {
    throw new Unreachable();
  }
  if (response.ok) return response;
  const told = problem.safeParse(await response.json().catch(() => null));
  // A proxy says so where the server is away; what the server says itself is told.
  if (!told.success && response.status >= 502 && response.status <= 504) throw new Unreachable();
  throw new Refused(
    response.status,
    told.data?.code ?? 'server',
    told.data?.message ?? 'The server could not do this. Try again.',
  );
}
