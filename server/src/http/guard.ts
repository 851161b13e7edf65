import type { RequestHandler } from 'express';
import { RequestProblem } from './problem';

/** Sent by our own pages with every request. A page of another origin cannot set it without being allowed to (CORS). */
const HEADER = 'x-kite-trail';

/** Turns away requests that change something and do not come from our own pages (OWASP: custom request header). */
export const guardAgainstForgery: RequestHandler = (request, _response, next) => {
  const reading = ['GET', 'HEAD', 'OPTIONS'].includes(request.method);
  const origin = request.get('origin');
  const foreign = origin !== undefined && new URL(origin).host !== request.get('host');
  if (!reading && (foreign || !request.get(HEADER))) {
    throw new RequestProblem(403, 'forged', 'This request did not come from a Kite Trail page.');
  }
  next();
};
