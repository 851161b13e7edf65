import type { Piece } from '../lesson/piece';
import { passingMs } from '../trail/passing';
import type { Moment } from '../trail/timeline';
import { withChange, type Sight, type SightChange } from './sight';

/** What somebody sees who follows, as it is told; what is seen for a while grows older by itself. */
export class FollowedSight {
  private sight: Sight | null = null;
  /** When it was told what is seen for a while. */
  private passingToldMs = 0;

  get isKnown(): boolean {
    return this.sight !== null;
  }

  /** What is being written just now, above the page. */
  get wet(): readonly Piece[] {
    return this.sight?.wet ?? [];
  }

  /** @param nowMs by any clock that runs evenly @throws Error as {@link withChange} does */
  take(change: SightChange, nowMs: number): void {
    this.sight = withChange(this.sight, change);
    if (change.passing) this.passingToldMs = nowMs;
  }

  /** What was told is of no use any more: a whole sight is awaited. */
  forget(): void {
    this.sight = null;
  }

  /** What is to be seen; `null` before anything was told. */
  momentAt(nowMs: number): Moment | null {
    if (!this.sight) return null;
    const { state, look, growing } = this.sight;
    const passing = this.passingAt(nowMs).map(({ change, sinceMs }) => ({ change, sinceMs }));
    return { scene: { pages: [state], shown: state.page.id, look }, growing, passing };
  }

  /** Whether something is still fading, so that it looks otherwise in a moment. */
  isFadingAt(nowMs: number): boolean {
    return this.passingAt(nowMs).some(({ change, sinceMs, isHeld }) => !isHeld && sinceMs < passingMs(change));
  }

  private passingAt(nowMs: number) {
    const agedMs = Math.max(0, nowMs - this.passingToldMs);
    return (this.sight?.passing ?? []).map((one) => (one.isHeld ? one : { ...one, sinceMs: one.sinceMs + agedMs }));
  }
}
