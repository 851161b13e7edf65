import type { PieceId } from '../lesson/ids';
import { markEndSamples, type Mark } from '../lesson/mark';
import { applyChange, type Scene } from '../lesson/scene';
import { CLOCK_HZ, samplesToMs } from './clock';
import { firstAtOrAfter, type Trail } from './trail';

/** Scenes are kept at every so many marks; between them they are computed. */
const MARKS_PER_CHECKPOINT = 64;

/** What is to be seen at one moment of a trail. */
export interface Moment {
  scene: Scene;
  /** How many points are written of each stroke that is being written just now. All others are whole. */
  growing: ReadonlyMap<PieceId, number>;
}

/** Finds the scene of any moment of a trail fast, forwards and backwards. */
export class Timeline {
  private readonly checkpoints: Scene[] = [];
  private readonly longestInkSamples: number;

  constructor(
    base: Scene,
    readonly trail: Trail,
  ) {
    let scene = base;
    let longest = 0;
    trail.marks.forEach((mark, i) => {
      if (i % MARKS_PER_CHECKPOINT === 0) this.checkpoints.push(scene);
      scene = applyChange(scene, mark);
      longest = Math.max(longest, markEndSamples(mark) - mark.atSamples);
    });
    this.checkpoints.push(scene);
    this.longestInkSamples = longest;
  }

  get lengthSamples(): number {
    return this.trail.lengthSamples;
  }

  /** The moment at a trail time: the base state and every mark up to and at that time. */
  at(samples: number): Moment {
    const { marks } = this.trail;
    const passed = firstAtOrAfter(marks, Math.floor(samples) + 1);
    return { scene: this.sceneAfter(passed), growing: this.growingAt(samples, passed) };
  }

  /** The scene when all is played. */
  get end(): Scene {
    return this.sceneAfter(this.trail.marks.length);
  }

  private sceneAfter(passed: number): Scene {
    const { marks } = this.trail;
    if (passed === marks.length) return this.checkpoints[this.checkpoints.length - 1];
    const checkpoint = Math.floor(passed / MARKS_PER_CHECKPOINT);
    let scene = this.checkpoints[checkpoint];
    for (let i = checkpoint * MARKS_PER_CHECKPOINT; i < passed; i++) scene = applyChange(scene, marks[i]);
    return scene;
  }

  private growingAt(samples: number, passed: number): ReadonlyMap<PieceId, number> {
    const { marks } = this.trail;
    const growing = new Map<PieceId, number>();
    for (let i = passed - 1; i >= 0 && marks[i].atSamples + this.longestInkSamples > samples; i--) {
      const mark = marks[i];
      if (mark.kind === 'ink' && markEndSamples(mark) > samples) {
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
      const last = frameOf(markEndSamples(mark));
      for (let frame = first + 1; frame <= last; frame++) add(frame);
    }
    return [...frames].sort((a, b) => a - b);
  }
}

/** Marks in the order of their times; marks of one time keep their order. */
export function sortMarks(marks: readonly Mark[]): Mark[] {
  return [...marks].sort((a, b) => a.atSamples - b.atSamples);
}
