import { FormatError } from '../bytes';

/** What is told of each point of a trace, under a name such as `X`, `Y`, `F` (force) or `T` (time). */
export interface Channel {
  name: string;
  /** Not every point need tell it; it comes after those that every point tells. */
  isIntermittent: boolean;
}

/** How a number is meant: as it is, as what is added to the last value, or as what is added to the last difference. */
const ORDERS: Record<string, 0 | 1 | 2> = { '!': 0, "'": 1, '"': 2 };

const NUMBER = String.raw`-?\s*(?:#[0-9A-Fa-f]+|(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)`;
const VALUE = new RegExp(String.raw`\s*([!'"])?\s*(${NUMBER}|[TF*?])\s*`, 'y');

/** What has come of one channel so far. */
interface Course {
  order: 0 | 1 | 2;
  value: number;
  /** By how much the last value differs from the one before, and by how much that difference does. */
  velocity: number;
  acceleration: number;
}

/**
 * Reads what stands in a `<trace>`: point by point the values of all channels, `NaN` where one is not told.
 * Source: W3C Recommendation "Ink Markup Language (InkML)", 20 September 2011, section 3.2.1.
 * @param channels in the order of their values
 * @returns a row for each channel
 * @throws FormatError where the text is no trace of these channels
 */
export function readTraceData(text: string, channels: readonly Channel[]): Float64Array[] {
  const parts = text.split(',');
  // The last point may be followed by a comma, too.
  if (parts.at(-1)!.trim() === '') parts.pop();
  const rows = channels.map(() => new Float64Array(parts.length).fill(NaN));
  const courses = channels.map((): Course => ({ order: 0, value: 0, velocity: 0, acceleration: 0 }));
  const least = channels.filter(({ isIntermittent }) => !isIntermittent).length;
  parts.forEach((part, n) => {
    let channel = 0;
    VALUE.lastIndex = 0;
    while (VALUE.lastIndex < part.length) {
      const found = VALUE.exec(part);
      if (!found || channel === channels.length) throw notATrace(n);
      const course = courses[channel];
      rows[channel][n] = next(course, found[1], found[2]);
      // Before the first point there is none it could differ from.
      if (n === 0) course.velocity = course.acceleration = 0;
      channel++;
    }
    if (channel < least) throw notATrace(n);
  });
  return rows;
}

const notATrace = (n: number) => new FormatError(`Point ${n + 1} of a trace in this InkML file cannot be read.`);

/** The value that comes next in a channel. */
function next(course: Course, prefix: string | undefined, written: string): number {
  if (prefix) course.order = ORDERS[prefix];
  if (written === '?') return NaN;
  if (written === '*') return goneOn(course);
  const number = numberIn(written);
  const before = course.value;
  switch (course.order) {
    case 0:
      course.value = number;
      break;
    case 1:
      course.value += number;
      break;
    case 2:
      course.value += course.velocity + number;
      break;
  }
  const velocity = course.value - before;
  course.acceleration = velocity - course.velocity;
  course.velocity = velocity;
  return course.value;
}

/** The value where nothing new is told: the same value, difference, or difference of differences as before. */
function goneOn(course: Course): number {
  if (course.order === 0) course.velocity = 0;
  if (course.order === 2) course.velocity += course.acceleration;
  course.value += course.velocity;
  return course.value;
}

function numberIn(written: string): number {
  if (written === 'T') return 1;
  if (written === 'F') return 0;
  const sign = written.startsWith('-') ? -1 : 1;
  const magnitude = written.replace(/^-\s*/, '');
  return sign * (magnitude.startsWith('#') ? parseInt(magnitude.slice(1), 16) : Number(magnitude));
}
