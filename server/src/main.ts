import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { statfs } from 'node:fs/promises';
import { join } from 'node:path';
import { pino } from 'pino';
import { hasTeachers } from './accounts/accounts';
import { SetUpCode } from './accounts/set-up';
import { createApp } from './app';
import { openDatabase } from './database/open';
import { readDrives } from './drives/school-drives';
import { KEY_BYTES, Seal } from './drives/seal';
import { Relay } from './live/relay';
import { takeLiveSockets } from './live/sockets';
import { Delivery } from './mail/delivery';
import { smtpPost } from './mail/post';
import { ROOT } from './place';
import { openIdAccounts } from './school-accounts/provider';
import { keepTidy } from './work/tidying';
import { ThreadedWork } from './work/work';

const port = Number(process.env.PORT ?? 4400);
const dataFolder = process.env.DATA_DIR ?? join(ROOT, 'data');
const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' });

mkdirSync(dataFolder, { recursive: true });
const address = process.env.DATABASE_URL ?? join(dataFolder, 'kite-trail.sqlite');
const db = await openDatabase(address);
const work = new ThreadedWork(db, address);
const endTidying = keepTidy(db, log);
const { SMTP_URL, MAIL_FROM = 'kite-trail@localhost' } = process.env;
const delivery = SMTP_URL ? new Delivery(db, smtpPost(SMTP_URL, MAIL_FROM), log) : null;
const { OIDC_ISSUER, OIDC_CLIENT_ID = '', OIDC_CLIENT_SECRET = '', OIDC_NAME = 'the school’s account' } = process.env;
const accounts = OIDC_ISSUER
  ? openIdAccounts({ name: OIDC_NAME, issuer: OIDC_ISSUER, clientId: OIDC_CLIENT_ID, clientSecret: OIDC_CLIENT_SECRET })
  : null;
const { DRIVES } = process.env;
const setUp = SetUpCode.make();
const relay = new Relay();
const app = createApp({
  db,
  work,
  log,
  security: pino(
    { base: null, timestamp: pino.stdTimeFunctions.isoTime },
    pino.destination(join(dataFolder, 'security.log')),
  ),
  setUp,
  freeBytes,
  delivery,
  accounts,
  sessionSecret: keptSecret('session-secret'),
  drives: DRIVES ? { all: readDrives(DRIVES), seal: new Seal(Buffer.from(keptSecret('drive-key'), 'hex')) } : null,
  ffmpeg: process.env.FFMPEG,
  relay,
  webFolder: join(ROOT, 'web/dist'),
  trustedProxies: process.env.TRUSTED_PROXIES,
});
const isEmpty = !(await hasTeachers(db));
const server = app.listen(port, (error) => {
  if (error) {
    console.error(`Port ${port} cannot be used (${error.message}). Choose another with PORT=….`);
    process.exit(1);
  }
  if (isEmpty) console.log(`To set up this school you need the code ${setUp.code}`);
  void delivery?.wake();
  console.log(`Kite Trail is at http://localhost:${port}`);
});

const endSockets = takeLiveSockets(server, { db, relay });

for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, () => {
    endTidying();
    endSockets();
    server.close(() => void endAll().then(() => process.exit(0)));
    server.closeAllConnections();
  });
}

/** A letter that is being sent is dealt with before the database closes. */
async function endAll(): Promise<void> {
  await delivery?.close();
  await Promise.all([work.close(), db.destroy()]);
}

/** What the disk has left on which the database is; another server's is not known. */
async function freeBytes(): Promise<number | null> {
  if (process.env.DATABASE_URL) return null;
  const { bavail, bsize } = await statfs(dataFolder);
  return bavail * bsize;
}

/** What signs the session cookies, and what seals passwords of drives: each made once and kept beside the database. */
function keptSecret(name: string): string {
  const file = join(dataFolder, name);
  if (!existsSync(file)) writeFileSync(file, randomBytes(KEY_BYTES).toString('hex'), { mode: 0o600 });
  return readFileSync(file, 'utf8');
}
