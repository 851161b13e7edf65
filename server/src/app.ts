import compression from 'compression';
import { ConnectSessionKnexStore } from 'connect-session-knex';
import express, { Router, type Express, type Request, type Response } from 'express';
import { rateLimit } from 'express-rate-limit';
import session from 'express-session';
import helmet from 'helmet';
import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { accountRoutes } from './accounts/routes';
import { LARGEST_FILE_BYTES } from './assets/accepted';
import { assetRoutes } from './assets/routes';
import { answerProblems, answerUnknown } from './http/answers';
import { guardAgainstForgery } from './http/guard';
import { sendPages } from './http/pages';
import type { Route } from './http/route';
import { LessonNews } from './lessons/news';
import { lessonRoutes } from './lessons/routes';
import { publishingRoutes } from './publishing/routes';
import { RecordingClaims } from './takes/claims';
import { takeRoutes } from './takes/routes';
import { templateRoutes } from './templates/routes';

const WEEK_MS = 7 * 24 * 3600 * 1000;

export interface AppOptions {
  db: Knex;
  log: Logger;
  sessionSecret: string;
  /** The built web application. */
  webFolder: string;
  /** Failed sign-ins allowed from one address in a quarter of an hour. */
  signInTries?: number;
}

/** Every route of the interface between pages and server. */
export function allRoutes(): Route[] {
  const news = new LessonNews();
  const claims = new RecordingClaims(news);
  return [
    ...accountRoutes(),
    ...lessonRoutes(news, claims),
    ...assetRoutes(),
    ...templateRoutes(),
    ...takeRoutes(news, claims),
    ...publishingRoutes(),
  ];
}

export function createApp({ db, log, sessionSecret, webFolder, signInTries = 10 }: AppOptions): Express {
  const app = express();
  app.set('trust proxy', 'loopback');
  app.use(pinoHttp({ logger: log, autoLogging: false }));
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
  app.use('/api', apiRouter({ db, sessionSecret, signInTries }));
  app.use(sendPages(webFolder, db));
  app.use(answerProblems);
  return app;
}

/** Ink is compact but still compresses well; sound does not. */
function isCompressible(request: Request, response: Response): boolean {
  return response.get('content-type') === 'application/octet-stream' || compression.filter(request, response);
}

function apiRouter({
  db,
  sessionSecret,
  signInTries,
}: Pick<Required<AppOptions>, 'db' | 'sessionSecret' | 'signInTries'>) {
  const api = Router();
  api.use(guardAgainstForgery);
  api.use(
    session({
      name: 'kite-trail',
      secret: sessionSecret,
      store: new ConnectSessionKnexStore({ knex: db, tableName: 'sessions', createTable: false }),
      resave: false,
      saveUninitialized: false,
      cookie: { httpOnly: true, sameSite: 'lax', secure: 'auto', maxAge: WEEK_MS },
    }),
  );
  api.post(
    ['/session', '/first-teacher'],
    rateLimit({
      windowMs: 15 * 60 * 1000,
      limit: signInTries,
      skipSuccessfulRequests: true,
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      message: { code: 'too-many-tries', message: 'Too many tries. Wait a quarter of an hour, then try again.' },
    }),
  );
  api.use(express.json({ limit: '40mb' }));
  api.use(express.raw({ limit: LARGEST_FILE_BYTES }));
  for (const route of allRoutes()) route.mount(api, db);
  api.use(answerUnknown);
  return api;
}
