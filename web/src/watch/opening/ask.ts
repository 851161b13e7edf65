import { PROTOCOL } from '@kite-trail/core/contract/protocol';
import type { Problem } from '@kite-trail/core/contract/watch';

/** The school refused, with a message for the student. */
export class Refused extends Error {
  override readonly name = 'Refused';

  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

/** Asks the school as a student's page does. @throws Refused, or Error where there is no network */
export async function ask(
  path: string,
  { method = 'GET', body }: { method?: string; body?: unknown } = {},
): Promise<Response> {
  const ours = { [PROTOCOL.header]: String(PROTOCOL.version), 'content-type': 'application/json' };
  const sent = method === 'GET' ? undefined : { method, headers: ours, body: JSON.stringify(body), keepalive: true };
  const response = await fetch(path, sent).catch(() => {
    throw new Error('There is no network just now. Try again in a moment.');
  });
  if (response.ok) return response;
  const problem = (await response.json().catch(() => null)) as Problem | null;
  throw new Refused(problem?.code ?? '', problem?.message ?? 'This cannot be played just now. Try again in a moment.');
}
