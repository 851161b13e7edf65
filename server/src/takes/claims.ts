import type { LessonId } from '@kite-trail/core/lesson/ids';
import { conflict } from '../http/problem';
import type { LessonNews } from '../lessons/news';

/** A window that was not heard of for so long is gone; a network or a server that comes back sooner does no harm. */
const GONE_AFTER_MS = 8000;

/**
 * Which window records a lesson just now: no other one may record or edit it meanwhile. A claim lasts while its window
 * hears the lesson's news or sends parts; once it is gone, another window may take over.
 */
export class RecordingClaims {
  private readonly claims = new Map<LessonId, { window: string; heardMs: number }>();

  constructor(
    private readonly news: LessonNews,
    private readonly nowMs: () => number = Date.now,
  ) {
    news.onGone = (lesson, window) => this.notice(lesson, window);
  }

  /** @throws RequestProblem when another window records the lesson */
  claim(lesson: LessonId, window: string): void {
    this.refuseOthers(lesson, window);
    const isNew = this.holder(lesson) === null;
    this.claims.set(lesson, { window, heardMs: this.nowMs() });
    if (isNew) this.news.tellHolder(lesson, window);
  }

  /** The window was heard of. */
  renew(lesson: LessonId, window: string): void {
    const claim = this.claims.get(lesson);
    if (claim?.window === window) claim.heardMs = this.nowMs();
  }

  release(lesson: LessonId, window: string): void {
    if (this.claims.get(lesson)?.window !== window) return;
    this.claims.delete(lesson);
    this.news.tellHolder(lesson, null);
  }

  /** @throws RequestProblem when another window records the lesson */
  refuseOthers(lesson: LessonId, window: string): void {
    const holder = this.holder(lesson);
    if (holder === null || holder === window) return;
    throw conflict(
      'being-recorded',
      'This lesson is being recorded in another window or on another device. You can look on here, and record when that one has finished.',
    );
  }

  /** The window that records the lesson, or `null`. */
  holder(lesson: LessonId): string | null {
    const claim = this.claims.get(lesson);
    if (!claim) return null;
    const isHere = this.news.isHeardBy(lesson, claim.window);
    return isHere || this.nowMs() - claim.heardMs < GONE_AFTER_MS ? claim.window : null;
  }

  /** A window went away. */
  private notice(lesson: LessonId, window: string): void {
    const claim = this.claims.get(lesson);
    if (claim?.window !== window) return;
    claim.heardMs = this.nowMs();
    this.watch(lesson, window);
  }

  /** Tells the others once a window has not come back. What it had sent may still come for a while: then it is waited for anew. */
  private watch(lesson: LessonId, window: string): void {
    const claim = this.claims.get(lesson);
    if (claim?.window !== window || this.news.isHeardBy(lesson, window)) return;
    const remainingMs = claim.heardMs + GONE_AFTER_MS - this.nowMs();
    if (remainingMs <= 0) return this.release(lesson, window);
    setTimeout(() => this.watch(lesson, window), remainingMs).unref();
  }
}
