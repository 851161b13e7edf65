/**
 * Which version of the requests and answers between pages and server a page speaks: it says so with each request. A page may
 * have been open since before an update: what it wants to change and the server no longer understands waits on its device
 * until it is opened anew.
 */
export const PROTOCOL = { header: 'x-kite-trail', version: 7, oldest: 7 } as const;

/**
 * A request that changes something names a key, and comes again with the same one when its answer is lost: the server then
 * repeats the answer. It is a string as structured headers write one (IETF httpapi,
 * draft-ietf-httpapi-idempotency-key-header; RFC 9651, section 3.3.3).
 */
export const idempotencyKey = {
  HEADER: 'idempotency-key',

  /** @param key letters, digits, `_` and `-` */
  write: (key: string): string => `"${key}"`,

  /** @returns the key, of at most 64 letters, or `null` where the header is not one of ours */
  read: (header: string): string | null => /^"([\w-]{8,64})"$/.exec(header)?.[1] ?? null,
} as const;
