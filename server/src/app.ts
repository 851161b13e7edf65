import compression from 'compression';
import express, { Router, type Express, type Request, type Response } from 'express';
import helmet from 'helmet';
import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { accountRoutes } from './accounts/routes';
import type { SetUpCode } from './accounts/set-up';
import { keeperRoutes } from './accounts/keeper-routes';
import { ownRoutes } from './accounts/own-routes';
import { archiveRoutes } from './archives/routes';
import { assetRoutes } from './assets/routes';
import { binRoutes } from './bin/routes';
import { catalogueRoutes } from './catalogue/routes';
import { classRoutes } from './classes/routes';
import { driveRoutes } from './drives/routes';
import type { SchoolDrives } from './drives/school-drives';
import { filmRoutes } from './films/routes';
import { answerProblems, answerUnknown } from './http/answers';
import { guardAgainstForgery } from './http/guard';
import { limitGuesses, limitLinks, limitPasscodes, limitQuestions, limitReports, type Forgiven } from './http/limits';
import { logRequests } from './http/log';
import { sendPages } from './http/pages';
import type { Route } from './http/route';
import { sessions } from './http/sessions';
import { handingRoutes } from './handing/routes';
import { insightRoutes } from './insight/routes';
import { linkRoutes } from './links/routes';
import { Relay } from './live/relay';
import { liveRoutes } from './live/routes';
import { LessonNews } from './lessons/news';
import { lessonRoutes } from './lessons/routes';
import type { Delivery } from './mail/delivery';
import { mailRoutes } from './mail/routes';
import { overviewRoutes, type FreeBytes } from './overview/routes';
import { publishingRoutes } from './publishing/routes';
import { questionRoutes } from './questions/routes';
import type { SchoolAccounts } from './school-accounts/provider';
import { schoolAccountRoutes } from './school-accounts/routes';
import { searchRoutes } from './search/routes';
import { RecordingClaims } from './takes/claims';
import { studentRoutes } from './students/routes';
import { taskRoutes } from './tasks/routes';
import { takeRoutes } from './takes/routes';
import { templateRoutes } from './templates/routes';
import { togetherRoutes } from './together/routes';
import type { Work } from './work/work';

export interface AppOptions {
  db: Knex;
  work: Work;
  log: Logger;
  /** What whoever watches over the school's door wants to know. */
  security: Logger;
  sessionSecret: string;
  /** The built web application. */
  webFolder: string;
  setUp: SetUpCode;
  /** How much room the school has left. */
  freeBytes?: FreeBytes;
  /** Sends letters; `null` where the school has no mail server. */
  delivery?: Delivery | null;
  /** By which teachers may sign in; `null` where the school has none. */
  accounts?: SchoolAccounts | null;
  /** Where teachers may put what they make; `null` where the school has none. */
  drives?: SchoolDrives | null;
  /** The program that encodes films for browsers that cannot: by default as it is found. */
  ffmpeg?: string;
  /** Passes on what is shown live; those who come by sockets are taken by `live/sockets`. */
  relay?: Relay;
  /** Mistakes at signing in. */
  forgiven?: Forgiven;
  /** The proxies in front of this server, as Express names them: they tell who asks, and whether by https. */
  trustedProxies?: string;
}

/** Every route of the interface between pages and server. */
export function allRoutes({
  setUp,
  freeBytes = async () => null,
  delivery = null,
  accounts = null,
  drives = null,
  ffmpeg = 'ffmpeg',
  relay = new Relay(),
}: Pick<AppOptions, 'setUp' | 'freeBytes' | 'delivery' | 'accounts' | 'drives' | 'ffmpeg' | 'relay'>): Route[] {
  const news = new LessonNews();
  const claims = new RecordingClaims(news);
  return [
    ...accountRoutes(setUp, accounts),
    ...schoolAccountRoutes(accounts),
    ...ownRoutes(accounts),
    ...keeperRoutes(),
    ...lessonRoutes(news, claims),
    ...archiveRoutes(),
    ...classRoutes(),
    ...searchRoutes(),
    ...overviewRoutes(freeBytes),
    ...binRoutes(news, claims),
    ...handingRoutes(news, claims),
    ...togetherRoutes(news),
    ...assetRoutes(),
    ...templateRoutes(),
    ...takeRoutes(news, claims),
    ...publishingRoutes(),
    ...linkRoutes(),
    ...mailRoutes(delivery),
    ...driveRoutes(drives),
    ...filmRoutes(ffmpeg),
    ...insightRoutes(),
    ...questionRoutes(),
    ...studentRoutes(),
    ...taskRoutes(),
    ...liveRoutes(relay),
    ...catalogueRoutes(),
  ];
}

export function createApp({ webFolder, trustedProxies = 'loopback', ...options }: AppOptions): Express {
  const { log, security } = options;
  const app = express();
  app.set('trust proxy', trustedProxies);
  // What never changes has an ETag of its own; to hash all other answers would keep others waiting for nothing.
  app.set('etag', false);
  app.use(logRequests(log, security));
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          // The AAC encoder is WebAssembly.
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          workerSrc: ["'self'", 'blob:'],
          // The component library writes its styles into the page.
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          mediaSrc: ["'self'", 'blob:'],
          // Sound that is still only on this device is read by its object URL.
          connectSrc: ["'self'", 'blob:'],
          fontSrc: ["'self'"],
          objectSrc: ["'none'"],
          baseUri: ["'none'"],
          formAction: ["'self'"],
          frameAncestors: ["'none'"],
        },
      },
      // Watch links must not travel on to other sites.
      referrerPolicy: { policy: 'no-referrer' },
    }),
  );
  app.use(compression({ filter: isCompressible }));
  app.use('/api', apiRouter(options));
  app.use(sendPages(webFolder, options));
  app.use(answerProblems);
  return app;
}

/** Ink is compact but still compresses well; sound does not. */
function isCompressible(request: Request, response: Response): boolean {
  return response.get('content-type') === 'application/octet-stream' || compression.filter(request, response);
}

/** Where passwords and codes are asked for. */
const GUESSED = ['/session', '/first-teacher', '/tickets/:step', '/account', '/account/:step'];

function apiRouter({
  db,
  work,
  log,
  sessionSecret,
  forgiven = { account: 10, address: 200 },
  ...school
}: Omit<AppOptions, 'webFolder' | 'trustedProxies'>) {
  const api = Router();
  api.use(guardAgainstForgery);
  api.use(sessions(db, log, sessionSecret));
  const limits = limitGuesses(forgiven);
  api.post(GUESSED, limits);
  api.put(GUESSED, limits);
  api.post('/watch/:token/passcode', limitPasscodes(forgiven));
  api.post('/watch/:token/publications/:publication/questions', limitQuestions());
  api.post('/watch/:token/publications/:publication/visits', limitReports());
  api.get(['/watch/:token', '/class-pages/:token', '/live/:code', '/asked/:code'], limitLinks(forgiven));
  api.post(['/student-session', '/asked/:code/guests'], limitLinks(forgiven));
  for (const route of allRoutes(school)) route.mount(api, { db, work });
  api.use(answerUnknown);
  return api;
}
