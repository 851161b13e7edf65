import { samplesToSeconds } from '@kite-trail/core/trail/clock';

/**
 * What a course system offers the pages it shows: the same few calls under two names (ADL SCORM 1.2 Run-Time Environment 3.2;
 * SCORM 2004 4th Edition Run-Time Environment 3.1).
 */
interface Course {
  set(name: keyof typeof NAMES, value: string): void;
  get(name: keyof typeof NAMES): string;
  commit(): void;
  end(): void;
}

type Api = Record<string, (...values: string[]) => string>;

/** By its name in SCORM 1.2, and in SCORM 2004. */
const NAMES = {
  status: ['cmi.core.lesson_status', 'cmi.completion_status'],
  place: ['cmi.core.lesson_location', 'cmi.location'],
  /** Only the later one has it. */
  share: ['', 'cmi.progress_measure'],
  /** What a page keeps for itself. */
  own: ['cmi.suspend_data', 'cmi.suspend_data'],
  ending: ['cmi.core.exit', 'cmi.exit'],
} as const;

/** A frame in a frame, and so on: the standard says to look no further than that. */
const MOST_FRAMES = 7;
/** A lesson is told in so many parts: each was heard, or not. */
const PARTS = 100;
/** Whoever has heard so many of them is done. */
const ENOUGH_PARTS = 95;
const TOLD_EVERY_MS = 5000;

function apiNamed(name: string): Api | null {
  try {
    let frame: Window = window;
    for (let n = 0; n < MOST_FRAMES; n++) {
      const found = (frame as unknown as Record<string, Api | undefined>)[name];
      if (found) return found;
      if (frame.parent === frame) break;
      frame = frame.parent;
    }
    return ((window.opener as Record<string, Api | undefined> | null)?.[name] ?? null) as Api | null;
  } catch {
    // A frame of another origin is no course system's.
    return null;
  }
}

function openCourse(): Course | null {
  const [later, earlier] = [apiNamed('API_1484_11'), apiNamed('API')];
  const api = later ?? earlier;
  if (!api) return null;
  const which = later ? 1 : 0;
  const call = (verb: string, ...values: string[]) => api[later ? verb : `LMS${verb}`](...values);
  if (String(call('Initialize', '')) !== 'true') return null;
  return {
    set: (name, value) => void (NAMES[name][which] && call('SetValue', NAMES[name][which], value)),
    get: (name) => call('GetValue', NAMES[name][which]),
    commit: () => void call('Commit', ''),
    end: () => void call(later ? 'Terminate' : 'Finish', ''),
  };
}

/** Tells a course system how far somebody came: every few seconds, and when the page is left. */
export class CourseReport {
  private atSeconds: number;
  private told = '';
  private readonly heard: boolean[];
  private readonly isDone: boolean;

  private constructor(
    private readonly course: Course,
    private readonly lengthSamples: number,
  ) {
    const begun = Number.parseFloat(course.get('place'));
    this.atSeconds = Number.isFinite(begun) && begun > 0 ? begun : 0;
    this.isDone = /^(completed|passed)$/.test(course.get('status'));
    const kept = course.get('own');
    this.heard = Array.from({ length: PARTS }, (_, n) => kept[n] === '1');
    if (!this.isDone) course.set('status', 'incomplete');
    course.set('ending', 'suspend');
    course.commit();
    const timer = setInterval(() => this.tell(), TOLD_EVERY_MS);
    const leave = () => {
      clearInterval(timer);
      this.tell();
      course.end();
    };
    window.addEventListener('pagehide', leave, { once: true });
  }

  /** @returns `null` where no course system shows the page */
  static begin(lengthSamples: number): CourseReport | null {
    const course = openCourse();
    return course && new CourseReport(course, lengthSamples);
  }

  /** Where somebody goes on who was here before; 0 at the beginning. */
  get goesOnAtSeconds(): number {
    return Math.floor(this.atSeconds);
  }

  /** Somebody hears this moment. */
  hear(atSamples: number): void {
    this.atSeconds = samplesToSeconds(atSamples);
    this.heard[Math.min(PARTS - 1, Math.floor((atSamples / Math.max(1, this.lengthSamples)) * PARTS))] = true;
  }

  private tell(): void {
    const parts = this.heard.filter(Boolean).length;
    const now = `${this.atSeconds} ${parts}`;
    if (now === this.told) return;
    this.told = now;
    this.course.set('place', this.atSeconds.toFixed(1));
    this.course.set('share', (parts / PARTS).toFixed(2));
    this.course.set('own', this.heard.map(Number).join(''));
    if (!this.isDone && parts >= ENOUGH_PARTS) this.course.set('status', 'completed');
    this.course.commit();
  }
}
