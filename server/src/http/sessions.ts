import { createHash } from 'node:crypto';
import type { StudentId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Request, RequestHandler } from 'express';
import session, { Cookie, Store, type SessionData } from 'express-session';
import type { Knex } from 'knex';
import type { Logger } from 'pino';
import type { SessionRow, StudentSessionRow } from '../database/rows';

const HOUR_MS = 3600 * 1000;
const DAY_MS = 24 * HOUR_MS;
/** Whoever was away for so long signs in again. */
const IDLE_MS = 7 * DAY_MS;
/** So long a sign-in lasts at most: once it is that old it ends with the next pause, not in the middle of a lesson. */
const OLD_MS = 30 * DAY_MS;
const PAUSE_MS = 4 * HOUR_MS;
const LONGEST_MS = OLD_MS + DAY_MS;
/** A student's device stays theirs over holidays. */
const STUDENT_IDLE_MS = 90 * DAY_MS;
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
      (found) => done(null, found && { cookie: new Cookie(), ...found }),
      (error: unknown) => done(error),
    );
  }

  override set(id: string, data: SessionData, done: (error?: unknown) => void = () => {}): void {
    const { teacherId, studentId, device } = data;
    const now = new Date(this.nowMs()).toISOString();
    const row = { id_hash: hashOf(id), signed_in_at: now, seen_at: now };
    const keep = async () => {
      // Somebody comes: those who have long been away are forgotten.
      for (const [table, idleMs] of IDLE) {
        await this.db(table)
          .where('seen_at', '<', new Date(this.nowMs() - idleMs).toISOString())
          .delete();
      }
      const kept = studentId
        ? this.db('student_sessions').insert({ ...row, student_id: studentId } satisfies StudentSessionRow)
        : this.db('sessions').insert({ ...row, teacher_id: teacherId, device: device ?? '' });
      await kept.onConflict('id_hash').merge(['seen_at']);
    };
    keep().then(() => done(), done);
  }

  override destroy(id: string, done: (error?: unknown) => void = () => {}): void {
    const id_hash = hashOf(id);
    Promise.all(IDLE.map(([table]) => this.db(table).where({ id_hash }).delete())).then(() => done(), done);
  }

  /** That it cannot be written down, such as on a full disk, is no reason to refuse what was asked for. */
  override touch(id: string, { studentId, seenAt }: SessionData, done: () => void = () => {}): void {
    const nowMs = this.nowMs();
    if (seenAt !== undefined && nowMs - Date.parse(seenAt) < SEEN_EVERY_MS) return done();
    this.db(studentId ? 'student_sessions' : 'sessions')
      .where({ id_hash: hashOf(id) })
      .update({ seen_at: new Date(nowMs).toISOString() })
      .catch((error: unknown) =>
        this.log.warn({ code: (error as { code?: string }).code }, 'a session was not renewed'),
      )
      .finally(done);
  }

  private find(id: string): Promise<SignedIn | null> {
    return signedIn(this.db, hashOf(id), this.nowMs());
  }
}

/** The tables of sessions, and how long somebody may be away. */
const IDLE = [
  ['sessions', IDLE_MS],
  ['student_sessions', STUDENT_IDLE_MS],
] as const;

type SignedIn = Pick<SessionData, 'teacherId' | 'studentId' | 'seenAt'>;

/** Whose a session is that has not ended, or `null`. */
async function signedIn(db: Knex, id_hash: string, nowMs: number): Promise<SignedIn | null> {
  const teacher = await db<SessionRow>('sessions').where({ id_hash }).first();
  if (teacher) return hasEnded(teacher, nowMs) ? null : { teacherId: teacher.teacher_id, seenAt: teacher.seen_at };
  const student = await db<StudentSessionRow>('student_sessions').where({ id_hash }).first();
  if (!student || nowMs - Date.parse(student.seen_at) > STUDENT_IDLE_MS) return null;
  return { studentId: student.student_id, seenAt: student.seen_at };
}

/** Whether whoever asked is still signed in where they did. */
export const isStillIn = async (db: Knex, { sessionID }: Request): Promise<boolean> =>
  (await signedIn(db, hashOf(sessionID), Date.now())) !== null;

export const hashOf = (id: string): string => createHash('sha256').update(id).digest('hex');

/** Signed-in teachers, and students, by their cookie. Over https its name lets browsers take it from this address alone (RFC 6265bis, 4.1.3.2). */
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
export function startSession(
  request: Request,
  whose: { teacherId: TeacherId } | { studentId: StudentId },
): Promise<void> {
  return new Promise((resolve, reject) =>
    request.session.regenerate((error) => {
      if (error) return reject(error);
      Object.assign(request.session, whose);
      // What a student uses is nobody's business.
      if ('teacherId' in whose) request.session.device = (request.get('user-agent') ?? '').slice(0, 200);
      request.session.save((failed) => (failed ? reject(failed) : resolve()));
    }),
  );
}

export const endSession = (request: Request): Promise<void> =>
  new Promise((resolve, reject) => request.session.destroy((error) => (error ? reject(error) : resolve())));
