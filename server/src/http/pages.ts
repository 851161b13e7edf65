import { join } from 'node:path';
import express, { Router } from 'express';
import type { Knex } from 'knex';
import { liveLink } from './rights';

const YEAR_MS = 365 * 24 * 3600 * 1000;

/** Sends the built pages: the watch page under `/w/`, the teacher's application everywhere else. */
export function sendPages(webFolder: string, db: Knex): Router {
  const pages = Router();
  pages.use('/assets', express.static(join(webFolder, 'assets'), { immutable: true, maxAge: YEAR_MS, index: false }));
  pages.use(express.static(webFolder, { index: false }));
  pages.get('/w/:token', async (request, response) => {
    // What the page will ask for comes along with it: on a slow network that saves two round trips.
    const link = await liveLink(db, request).catch(() => null);
    if (link) {
      const about = `/api/watch/${link.token}`;
      const preloaded = [about, `${about}/publications/${link.publication_id}/payload`];
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
