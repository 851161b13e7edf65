import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Watch } from '@kite-trail/core/contract/watch';
import express, { Router, type Request, type Response } from 'express';
import type { LinkRow, PublicationRow } from '../database/rows';
import { minutesText } from '../publishing/minutes-text';
import { rulesOf } from '../links/live';
import { describeWatch } from '../publishing/describe-watch';
import { newestOf } from '../publishing/publishing';
import { liveLink } from './holders';
import type { Ground } from './route';

const YEAR_MS = 365 * 24 * 3600 * 1000;

/** Sends the built pages: the watch page under `/w/`, classes' pages under `/c/`, live pages under `/live`, what students make lessons with under
 * `/student`, the teacher's application everywhere else. */
export function sendPages(webFolder: string, { db, work }: Ground): Router {
  const pages = Router();
  pages.use('/assets', express.static(join(webFolder, 'assets'), { immutable: true, maxAge: YEAR_MS, index: false }));
  pages.use(express.static(webFolder, { index: false }));
  pages.get('/w/:token', async (request, response) => {
    response.set('X-Robots-Tag', 'noindex');
    // What a link leads to changes when its teacher publishes again.
    response.set('Cache-Control', 'no-cache');
    const link = await liveLink(db, request).catch(() => null);
    if (link) letBeShown(response, rulesOf(link).sites);
    // What is behind a passcode is said in no page.
    if (!link || link.passcode_hash !== null) return void response.sendFile(join(webFolder, 'watch.html'));
    const publication = await newestOf(db, link);
    const about = await describeWatch({ db, work }, link, publication);
    const page = await readFile(join(webFolder, 'watch.html'), 'utf8');
    const at = `/api/watch/${link.token}/publications/${publication.id}`;
    // The sound loads beside the program that plays it, which takes over its element.
    const sound = about.hasSound ? `<audio src="${at}/sound" preload="auto"></audio>` : '';
    const whole = page
      .replace('</head>', () => `${headOf(request, at, link, publication, about)}</head>`)
      .replace('<body>', () => `<body>${sound}`);
    response.type('html').send(whole);
  });
  pages.get('/c/:token', (_request, response) => {
    response.set('X-Robots-Tag', 'noindex').sendFile(join(webFolder, 'class.html'));
  });
  pages.get(['/live', '/live/:code'], (_request, response) => {
    response.set('X-Robots-Tag', 'noindex').sendFile(join(webFolder, 'follow.html'));
  });
  pages.get(['/student', '/student/{*rest}'], (_request, response) => {
    response.set('X-Robots-Tag', 'noindex').sendFile(join(webFolder, 'student.html'));
  });
  pages.get('/{*rest}', (_request, response) => response.sendFile(join(webFolder, 'index.html')));
  return pages;
}

/** Lets the pages of some sites show this one within them (CSP Level 3, section 6.4.2). */
function letBeShown(response: Response, sites: readonly string[]): void {
  if (sites.length === 0) return;
  const policy = String(response.get('Content-Security-Policy'));
  response.set(
    'Content-Security-Policy',
    policy.replace(/frame-ancestors [^;]*/, `frame-ancestors 'self' ${sites.join(' ')}`),
  );
  // The older header knows no single sites.
  response.removeHeader('X-Frame-Options');
}

/**
 * What a watch page's head says: to chat programs, what the link leads to (the Open Graph protocol); to the page, all it would ask for
 * first, which saves a round trip on a slow network.
 */
function headOf(
  { protocol, host }: Request,
  at: string,
  link: LinkRow,
  publication: PublicationRow,
  about: Watch,
): string {
  const said: Record<string, string> = {
    'og:type': 'video.other',
    'og:title': about.title,
    'og:site_name': 'Kite Trail',
    'og:description': `An explanation by hand and voice, ${minutesText(about.lengthSamples)} long.`,
    'og:url': `${protocol}://${host}/w/${link.token}`,
  };
  if (publication.picture_asset) said['og:image'] = `${protocol}://${host}${at}/picture`;
  const metas = Object.entries(said).map(
    ([name, content]) => `<meta property="${name}" content="${escaped(content)}" />`,
  );
  return [
    ...metas,
    // JSON within a page must not end its element (HTML, section 4.12.1.3).
    `<script type="application/json" id="about">${JSON.stringify(about).replaceAll('<', '\\u003c')}</script>`,
  ].join('\n');
}

const ENTITIES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
const escaped = (text: string): string => text.replace(/[&<>"]/g, (letter) => ENTITIES[letter]);
