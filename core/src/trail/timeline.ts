import type { PageId, PieceId, TakeId } from '../lesson/ids';
import { isPassing, markEndSamples, type Mark } from '../lesson/mark';
import type { Piece } from '../lesson/piece';
import { applyChange, applyChanges, pageStateOf, withFresh, type Scene } from '../lesson/scene';
import type { RectPt } from '../lesson/rect';
import { CLOCK_HZ, msToSamples, samplesToMs } from './clock';
import { LONGEST_PASSING_MS, passingMs, type Passing } from './passing';
import type { Programme } from './programme';
import type { Take } from './take';
import { firstAtOrAfter, marksBefore, type Trail } from './trail';

type InkMark = Extract<Mark, { kind: 'ink' }>;

/** Scenes are kept at every so many marks; between them they are computed. */
const MARKS_PER_CHECKPOINT = 64;

const ordersPages = ({ kind }: Mark) => kind === 'add-page' || kind === 'drop-page' || kind === 'move-page';

/** What is to be seen at one moment of a trail. */
export interface Moment {
  scene: Scene;
  /** How many points are written of each stroke that is being written just now. All others are whole. */
  growing: ReadonlyMap<PieceId, number>;
  /** What is seen for a while on the page shown, the newest last. */
  passing: readonly Passing[];
}

/** A scene in which nothing moves. */
export const still = (scene: Scene): Moment => ({ scene, growing: new Map(), passing: [] });

/** Looks that follow one another sooner than this are one movement. */
const LOOK_MOVES_MS = 300;
/** They are found among so many marks. */
const LOOK_MARKS_AHEAD = 12;

/**
 * Finds the scene of any moment of a trail fast, forwards and backwards. Scenes are worked out as far as they are asked for:
 * an edit of a long trail is seen before all of it is played out anew.
 */
export class Timeline {
  /** The scene before every so many marks, as far as `played`. */
  private readonly checkpoints: Scene[] = [];
  /** How many marks are worked out. */
  private played = 0;
  /** The scene after them. */
  private latest: Scene;
  /** Of those that are worked out. */
  private longestInkSamples = 0;
  /** Which marks are ink that is seen to grow (1): not what lies there already, as in a stretch that is repeated, nor what passes. */
  private readonly grows: Uint8Array;
  /** The scene that was last worked out, and how many marks it had seen: frame after frame, few more come. */
  private cursor: { passed: number; scene: Scene } | null = null;
  /** Which pieces are on the page that was last written on. */
  private present: { of: readonly Piece[]; ids: Set<PieceId> } = { of: [], ids: new Set() };

  /** @param earlier what it has worked out is taken over, as far as it plays the same marks on the same base */
  constructor(
    readonly base: Scene,
    readonly trail: Trail,
    earlier?: Timeline,
  ) {
    this.latest = base;
    this.grows = new Uint8Array(trail.marks.length);
    if (earlier?.base === base) this.reuse(earlier);
  }

  private reuse(earlier: Timeline): void {
    const [before, now] = [earlier.trail.marks, this.trail.marks];
    let same = 0;
    while (same < earlier.played && before[same] === now[same]) same++;
    const checkpoint = Math.min(Math.floor(same / MARKS_PER_CHECKPOINT), earlier.checkpoints.length - 1);
    if (checkpoint <= 0) return;
    this.played = checkpoint * MARKS_PER_CHECKPOINT;
    this.checkpoints.push(...earlier.checkpoints.slice(0, checkpoint));
    this.latest = earlier.checkpoints[checkpoint];
    this.grows.set(earlier.grows.subarray(0, this.played));
    this.longestInkSamples = earlier.longestInkSamples;
  }

  /** Works scenes out until so many marks are played, and on to the next checkpoint. */
  private playUntil(count: number): void {
    const { marks } = this.trail;
    while (this.played < count) {
      this.checkpoints.push(this.latest);
      this.playOn(Math.min(marks.length, this.played + MARKS_PER_CHECKPOINT));
    }
  }

  private playOn(end: number): void {
    /** Ink that follows upon ink on the same page is put there together: most of a trail is such ink. */
    let run: InkMark[] = [];
    const put = (until: number) => {
      if (run.length > 0) this.latest = this.withInk(this.latest, run, until - run.length);
      run = [];
    };
    for (let i = this.played; i < end; i++) {
      const mark = this.trail.marks[i];
      this.longestInkSamples = Math.max(this.longestInkSamples, markEndSamples(mark) - mark.atSamples);
      if (mark.kind === 'ink' && !isPassing(mark)) {
        if (run.length > 0 && run[0].page !== mark.page) put(i);
        run.push(mark);
      } else {
        put(i);
        this.latest = applyChange(this.latest, mark);
      }
    }
    put(end);
    this.played = end;
  }

  /** @param first the index of the run's first mark */
  private withInk(scene: Scene, run: readonly InkMark[], first: number): Scene {
    const { page } = run[0];
    const state = pageStateOf(scene, page);
    if (!state) return scene;
    const present = this.present.of === state.pieces ? this.present.ids : new Set(state.pieces.map(({ id }) => id));
    const fresh: Piece[] = [];
    run.forEach(({ stroke }, i) => {
      if (present.has(stroke.id)) return;
      present.add(stroke.id);
      this.grows[first + i] = 1;
      fresh.push(stroke);
    });
    if (fresh.length === 0) return scene;
    const inked = withFresh(scene, page, fresh);
    this.present = { of: pageStateOf(inked, page)!.pieces, ids: present };
    return inked;
  }

  get lengthSamples(): number {
    return this.trail.lengthSamples;
  }

  /** The moment at a trail time: the base state and every mark up to and at that time. */
  at(samples: number): Moment {
    const { marks } = this.trail;
    const passed = firstAtOrAfter(marks, Math.floor(samples) + 1);
    const scene = this.sceneAfter(passed);
    const look = this.lookBetween(samples, passed, scene);
    return {
      scene: look === scene.look ? scene : { ...scene, look },
      growing: this.growingAt(samples, passed),
      passing: this.passingAt(samples, passed, scene.shown),
    };
  }

  /** The scene when all is played. */
  get end(): Scene {
    return this.sceneAfter(this.trail.marks.length);
  }

  /** The pages when all is played, in their order. What lies on them is not worked out for it. */
  get pagesAtEnd(): readonly PageId[] {
    const bare = { ...this.base, pages: this.base.pages.map(({ page }) => ({ page, pieces: [] })) };
    return this.trail.marks
      .filter(ordersPages)
      .reduce(applyChange, bare as Scene)
      .pages.map(({ page }) => page.id);
  }

  private sceneAfter(passed: number): Scene {
    const { marks } = this.trail;
    this.playUntil(passed);
    if (passed === this.played) return this.latest;
    const checkpoint = Math.floor(passed / MARKS_PER_CHECKPOINT);
    const from = checkpoint * MARKS_PER_CHECKPOINT;
    const isNear = this.cursor !== null && this.cursor.passed >= from && this.cursor.passed <= passed;
    const near = isNear ? this.cursor! : { passed: from, scene: this.checkpoints[checkpoint] };
    const scene = applyChanges(near.scene, marks.slice(near.passed, passed));
    this.cursor = { passed, scene };
    return scene;
  }

  private passingAt(samples: number, passed: number, shown: PageId): Passing[] {
    const { marks } = this.trail;
    const reach = this.longestInkSamples + msToSamples(LONGEST_PASSING_MS);
    const found: Passing[] = [];
    for (let i = passed - 1; i >= 0 && marks[i].atSamples + reach > samples; i--) {
      const mark = marks[i];
      if ((mark.kind !== 'ink' && mark.kind !== 'point') || !isPassing(mark) || mark.page !== shown) continue;
      const sinceMs = samplesToMs(samples - mark.atSamples);
      if (sinceMs < passingMs(mark)) found.unshift({ change: mark, sinceMs });
    }
    return found;
  }

  /** While a look moves, it is between the last and the next mark that say where it was. */
  private lookBetween(samples: number, passed: number, { look }: Scene): RectPt | null {
    const { marks } = this.trail;
    const next = marks.slice(passed, passed + LOOK_MARKS_AHEAD).find(({ kind }) => kind === 'look' || kind === 'turn');
    const before = marks.slice(Math.max(0, passed - LOOK_MARKS_AHEAD), passed).findLast(({ kind }) => kind === 'look');
    if (!look || !before || next?.kind !== 'look' || !next.rect) return look;
    const length = next.atSamples - before.atSamples;
    if (length === 0 || length > msToSamples(LOOK_MOVES_MS)) return look;
    const share = (samples - before.atSamples) / length;
    const between = (from: number, to: number) => from + (to - from) * share;
    return {
      left: between(look.left, next.rect.left),
      top: between(look.top, next.rect.top),
      right: between(look.right, next.rect.right),
      bottom: between(look.bottom, next.rect.bottom),
    };
  }

  private growingAt(samples: number, passed: number): ReadonlyMap<PieceId, number> {
    const { marks } = this.trail;
    const growing = new Map<PieceId, number>();
    for (let i = passed - 1; i >= 0 && marks[i].atSamples + this.longestInkSamples > samples; i--) {
      const mark = marks[i];
      if (mark.kind === 'ink' && this.grows[i] === 1 && markEndSamples(mark) > samples) {
        growing.set(mark.stroke.id, mark.stroke.points.countBy(samplesToMs(samples - mark.atSamples)));
      }
    }
    return growing;
  }

  /**
   * The times of the frames in which something changes, of all frames at `framesPerSecond`: what a video needs to show.
   * The first frame always counts. Times are frame indices.
   */
  changedFrames(framesPerSecond: number): number[] {
    const frames = new Set<number>([0]);
    const frameOf = (samples: number) => Math.ceil((samples / CLOCK_HZ) * framesPerSecond);
    const lastFrame = Math.max(0, frameOf(this.lengthSamples) - 1);
    const add = (frame: number) => frames.add(Math.min(lastFrame, frame));
    for (const mark of this.trail.marks) {
      const first = frameOf(mark.atSamples);
      add(first);
      const last = frameOf(this.seenUntil(mark));
      for (let frame = first + 1; frame <= last; frame++) add(frame);
    }
    this.trail.marks.reduce<Mark | null>((before, mark) => {
      if (mark.kind !== 'look') return before;
      const isMoving = before && mark.atSamples - before.atSamples <= msToSamples(LOOK_MOVES_MS);
      if (isMoving) for (let n = frameOf(before.atSamples); n < frameOf(mark.atSamples); n++) add(n);
      return mark;
    }, null);
    return [...frames].sort((a, b) => a - b);
  }

  private seenUntil(mark: Mark): number {
    if ((mark.kind === 'ink' || mark.kind === 'point') && isPassing(mark)) {
      return mark.atSamples + msToSamples(passingMs(mark));
    }
    return markEndSamples(mark);
  }
}

/** The scene in which a programme's segment of this index begins. */
export function sceneBefore(base: Scene, programme: Programme, index: number, takes: ReadonlyMap<TakeId, Take>): Scene {
  return new Timeline(base, { lengthSamples: 0, marks: marksBefore(programme, index, takes) }).end;
}

/** Marks in the order of their times; marks of one time keep their order. */
export function sortMarks(marks: readonly Mark[]): Mark[] {
  return [...marks].sort((a, b) => a.atSamples - b.atSamples);
}
