import type { VisitReport } from '@kite-trail/core/contract/visit';
import type { Watch } from '@kite-trail/core/contract/watch';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { stepAt, stepCount } from '@kite-trail/core/trail/visits';
import { nanoid } from 'nanoid';

/** More than this at once is a jump. */
const JUMP_SAMPLES = secondsToSamples(3);
const MOST_IN_A_STEP = 100;

type Told = Omit<VisitReport, 'visit' | 'n'>;

/**
 * What is told of one visit: which steps were heard, gone back to and slowed, and where it is. Its number is random, and gone with the
 * page.
 */
export class Visit {
  readonly id = nanoid();
  private readonly lengthSamples: number;
  private readonly told: Told;
  private reports = 0;
  private wasAt = 0;
  private heardStep: number | null = null;

  constructor({ lengthSamples }: Watch) {
    this.lengthSamples = lengthSamples;
    this.told = this.nothing();
  }

  /** The playhead is here now. @param rate of the voice; 0 while nothing plays */
  at(samples: number, rate: number): void {
    const step = stepAt(this.lengthSamples, samples);
    const jump = samples - this.wasAt;
    this.wasAt = samples;
    this.told.at = step;
    if (jump < -JUMP_SAMPLES) add(this.told.wentBack, step);
    if (rate === 0 || Math.abs(jump) > JUMP_SAMPLES) this.heardStep = null;
    if (rate === 0) return;
    if (jump > 0 && jump <= JUMP_SAMPLES) this.told.heardSeconds += jump / secondsToSamples(1) / rate;
    if (step === this.heardStep) return;
    this.heardStep = step;
    add(this.told.heard, step);
    if (rate < 1) add(this.told.slowed, step);
  }

  /** Where somebody begins who goes on from there: no jump. */
  beginAt(samples: number): void {
    this.wasAt = samples;
    this.told.at = stepAt(this.lengthSamples, samples);
  }

  /** What is to be told now; it counts as told once `hasBeenTold` is said. */
  report(): VisitReport {
    const heardSeconds = Math.min(3600, this.told.heardSeconds);
    return structuredClone({ visit: this.id, n: this.reports, ...this.told, heardSeconds });
  }

  /** A report has arrived: what has happened since it was made is told next. */
  hasBeenTold(report: VisitReport): void {
    if (report.n !== this.reports) return;
    this.reports++;
    for (const key of ['heard', 'wentBack', 'slowed'] as const) {
      this.told[key] = this.told[key].map((count, step) => count - report[key][step]);
    }
    this.told.heardSeconds -= report.heardSeconds;
  }

  private nothing(): Told {
    const none = () => new Array<number>(stepCount(this.lengthSamples)).fill(0);
    return { heard: none(), wentBack: none(), slowed: none(), heardSeconds: 0, at: 0 };
  }
}

function add(counts: number[], step: number): void {
  counts[step] = Math.min(MOST_IN_A_STEP, counts[step] + 1);
}
