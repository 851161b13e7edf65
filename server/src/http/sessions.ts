import { createHash } from 'node:crypto';
import type { TeacherId } from '@kite-trail/core/lesson/ids';
import type { Request, RequestHandler } from 'express';
import session, { Cookie, Store, type SessionData } from 'express-session';
import type { Knex } from 'knex';
import type { Logger } from 'pino';
import type { SessionRow } from '../database/rows';

const HOUR_MS = 3600 * 1000;
const DAY_MS = 24 * HOUR_MS;
/** Whoever was away for so long signs in again. */
const IDLE_MS = 7 * DAY_MS;
/** So long a sign-in lasts at most: once it is that old it ends with the next pause, not in the middle of a lesson. */
const OLD_MS = 30 * DAY_MS;
const PAUSE_MS = 4 * HOUR_MS;
const LONGEST_MS = OLD_MS + DAY_MS;
/** That somebody was seen is written down so often, not with each request: every write waits for the disk. */
const SEEN_EVERY_MS = HOUR_MS;

/** Whether a sign-in has ended by itself. */
export function hasEnded({ signed_in_at, seen_at }: SessionRow, nowMs: number): boolean {
  const ageMs = nowMs - Date.parse(signed_in_at);
  const awayMs = nowMs - Date.parse(seen_at);
  return awayMs > IDLE_MS || ageMs > LONGEST_MS || (ageMs > OLD_MS && awayMs > PAUSE_MS);
}

/** Who is signed in where. The table knows ids by their hash alone: whoever reads it cannot sign in with it. */
export class SessionStore extends Store {
  constructor(
    private readonly db: Knex,
    private readonly log: Logger,
    private readonly nowMs: () => number = Date.now,
  ) {
    super();
  }

  override get(id: string, done: (error: unknown, session?: SessionData | null) => void): void {
    this.find(id).then(
      (row) => done(null, row && { cookie: new Cookie(), teacherId: row.teacher_id, seenAt: row.seen_at }),
      (error: unknown) => done(error),
    );
  }

  override set(id: string, { teacherId, device }: SessionData, done: (error?: unknown) => void = () => {}): void {
    const now = new Date(this.nowMs()).toISOString();
    const row = { id_hash: hashOf(id), teacher_id: teacherId, device: device ?? '', signed_in_at: now, seen_at: now };
    const keep = async () => {
      // Somebody comes: those who have long been away are forgotten.
      await this.db('sessions')
        .where('seen_at', '<', new Date(this.nowMs() - IDLE_MS).toISOString())
        .delete();
      await this.db('sessions').insert(row).onConflict('id_hash').merge(['seen_at']);
    };
    keep().then(() => done(), done);
  }

  override destroy(id: string, done: (error?: unknown) => void = () => {}): void {
    this.db('sessions')
      .where({ id_hash: hashOf(id) })
      .delete()
      .then(() => done(), done);
  }

  /** That it cannot be written down, such as on a full disk, is no reason to refuse what was asked for. */
  override touch(id: string, { seenAt }: SessionData, done: () => void = () => {}): void {
    const nowMs = this.nowMs();
    if (seenAt !== undefined && nowMs - Date.parse(seenAt) < SEEN_EVERY_MS) return done();
    this.db('sessions')
      .where({ id_hash: hashOf(id) })
      .update({ seen_at: new Date(nowMs).toISOString() })
      .catch((error: unknown) =>
        this.log.warn({ code: (error as { code?: string }).code }, 'a session was not renewed'),
      )
      .finally(done);
  }

  private async find(id: string): Promise<SessionRow | null> {
    const row = await this.db<SessionRow>('sessions')
      .where({ id_hash: hashOf(id) })
      .first();
    return row && !hasEnded(row, this.nowMs()) ? row : null;
  }
}

/** Whether whoever asked is still signed in where they did. */
export async function isStillIn(db: Knex, { sessionID }: Request): Promise<boolean> {
  const row = await db<SessionRow>('sessions')
    .where({ id_hash: hashOf(sessionID) })
    .first();
  return row !== undefined && !hasEnded(row, Date.now());
}

export const hashOf = (id: string): string => createHash('sha256').update(id).digest('hex');

/** Signed-in teachers by their cookie. Over https its name lets browsers take it from this address alone (RFC 6265bis, 4.1.3.2). */
export function sessions(db: Knex, log: Logger, secret: string): RequestHandler {
  const named = (name: string, isSecure: boolean) =>
    session({
      name,
      secret,
      // A store makes sessions with the cookies of one middleware alone.
      store: new SessionStore(db, log),
      resave: false,
      saveUninitialized: false,
      cookie: { httpOnly: true, sameSite: 'lax', path: '/', maxAge: LONGEST_MS, secure: isSecure },
    });
  const [plain, secure] = [named('kite-trail', false), named('__Host-kite-trail', true)];
  return (request, response, next) => (request.secure ? secure : plain)(request, response, next);
}

/** A new session id at sign-in, so that one planted before is worth nothing. */
export function startSession(request: Request, teacher: TeacherId): Promise<void> {
  return new Promise((resolve, reject) =>
    request.session.regenerate((error) => {
      if (error) return reject(error);
      request.session.teacherId = teacher;
      request.session.device = (request.get('user-agent') ?? '').slice(0, 200);
      request.session.save((failed) => (failed ? reject(failed) : resolve()));
    }),
  );
}

export const endSession = (request: Request): Promise<void> =>
  new Promise((resolve, reject) => request.session.destroy((error) => (error ? reject(error) : resolve())));
