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
  // A page without an address of its own says `null`, and is none of ours.
  const foreign = origin !== undefined && (!URL.canParse(origin) || new URL(origin).host !== request.get('host'));
  const spoken = Number(request.get(PROTOCOL.header));
  if (!reading && (foreign || !(spoken > 0))) {
    request.noteSecurity('forged request');
    throw new RequestProblem(403, 'forged', 'This request did not come from a Kite Trail page.');
  }
  if (!reading && spoken < PROTOCOL.oldest) {
    throw new RequestProblem(503, 'older-page', 'This page is older than the school’s server. Load it anew to go on.');
  }
  if (spoken > PROTOCOL.version) {
    throw new RequestProblem(503, 'older-server', 'The school’s server is older than this page. It has to be updated.');
  }
  next();
};
