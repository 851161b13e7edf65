import { join } from 'node:path';
import express, { Router } from 'express';

const YEAR_MS = 365 * 24 * 3600 * 1000;

/** Sends the built pages: the watch page under `/w/`, the teacher's application everywhere else. */
export function sendPages(webFolder: string): Router {
  const pages = Router();
  pages.use('/assets', express.static(join(webFolder, 'assets'), { immutable: true, maxAge: YEAR_MS, index: false }));
  pages.use(express.static(webFolder, { index: false }));
  pages.get('/w/:token', (_request, response) => {
    response.set('X-Robots-Tag', 'noindex').sendFile(join(webFolder, 'watch.html'));
  });
  pages.get('/{*rest}', (_request, response) => response.sendFile(join(webFolder, 'index.html')));
  return pages;
}
