import { join } from 'node:path';
import { watchToken } from '@kite-trail/core/contract/primitives';
import express, { Router } from 'express';

const YEAR_MS = 365 * 24 * 3600 * 1000;

/** Sends the built pages: the watch page under `/w/`, the teacher's application everywhere else. */
export function sendPages(webFolder: string): Router {
  const pages = Router();
  pages.use('/assets', express.static(join(webFolder, 'assets'), { immutable: true, maxAge: YEAR_MS, index: false }));
  pages.use(express.static(webFolder, { index: false }));
  pages.get('/w/:token', (request, response) => {
    // What the page will ask for comes along with it: on a slow network that saves a round trip.
    const { token } = request.params;
    if (watchToken.safeParse(token).success) {
      const preloaded = [`/api/watch/${token}`, `/api/watch/${token}/payload`];
      response.set(
        'Link',
        preloaded.map((path) => `<${path}>; rel=preload; as=fetch; crossorigin`),
      );
    }
    response.set('X-Robots-Tag', 'noindex').sendFile(join(webFolder, 'watch.html'));
  });
  pages.get('/{*rest}', (_request, response) => response.sendFile(join(webFolder, 'index.html')));
  return pages;
}
