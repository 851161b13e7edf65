import { PROTOCOL } from '@kite-trail/core/contract/protocol';
import type { RequestHandler } from 'express';
import { RequestProblem } from './problem';

/**
 * Turns away requests that change something and do not come from our own pages (OWASP: custom request header): a page of
 * another origin cannot set ours without being allowed to (CORS). What a page sends that is newer than this server waits there.
 */
export const guardAgainstForgery: RequestHandler = (request, _response, next) => {
  const reading = ['GET', 'HEAD', 'OPTIONS'].includes(request.method);
  const origin = request.get('origin');
  const foreign = origin !== undefined && new URL(origin).host !== request.get('host');
  const spoken = Number(request.get(PROTOCOL.header));
  if (!reading && (foreign || !(spoken > 0))) {
    throw new RequestProblem(403, 'forged', 'This request did not come from a Kite Trail page.');
  }
  if (spoken > PROTOCOL.version) {
    throw new RequestProblem(503, 'older-server', 'The school’s server is older than this page. It has to be updated.');
  }
  next();
};
