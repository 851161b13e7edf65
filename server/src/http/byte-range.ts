import type { Request, Response } from 'express';

/** Which bytes of something are sent. */
export interface ByteRange {
  from: number;
  to: number;
}

/**
 * Answers the head of a request for bytes that never change, or for the range of them that was asked for (RFC 9110, section 14).
 * A range of other bytes than these, as `If-Range` tells, is answered with all.
 * @param etag names these bytes
 * @returns what of them is to be sent; `null` where the answer is complete: the browser has them, or there are no such bytes
 */
export function answerRange(request: Request, response: Response, sizeBytes: number, etag: string): ByteRange | null {
  response.set({ 'Accept-Ranges': 'bytes', ETag: etag });
  if (request.fresh) {
    response.status(304).end();
    return null;
  }
  const knows = request.get('if-range');
  const ranges = knows === undefined || knows === etag ? request.range(sizeBytes, { combine: true }) : undefined;
  if (ranges === -1) {
    response.status(416).set('Content-Range', `bytes */${sizeBytes}`).end();
    return null;
  }
  const range = Array.isArray(ranges) && ranges.length === 1 ? ranges[0] : null;
  const from = range?.start ?? 0;
  const to = (range?.end ?? sizeBytes - 1) + 1;
  if (range) response.status(206).set('Content-Range', `bytes ${from}-${to - 1}/${sizeBytes}`);
  response.set('Content-Length', String(to - from));
  if (request.method !== 'HEAD') return { from, to };
  response.end();
  return null;
}
