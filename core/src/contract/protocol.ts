/**
 * Which version of the requests and answers between pages and server a page speaks: it says so with each request. A server
 * understands all older ones, for a page may have been open since before an update.
 */
export const PROTOCOL = { header: 'x-kite-trail', version: 2 } as const;
