import type { EditState } from '@kite-trail/core/contract/edition';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { Template } from '@kite-trail/core/contract/template';
import { encodeHistory, NO_HISTORY } from '@kite-trail/core/formats/history-coding';
import { encodeMarks, encodePieces } from '@kite-trail/core/formats/marks-coding';
import { encodeTakePart } from '@kite-trail/core/formats/take-part';
import type { CaptionId, TakeId } from '@kite-trail/core/lesson/ids';
import type { Stroke } from '@kite-trail/core/lesson/piece';
import { NOTHING_HEARD } from '@kite-trail/core/sound/profile';
import type { Edition } from '@kite-trail/core/trail/edition';
import type { Segment } from '@kite-trail/core/trail/programme';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { handwriting } from './big-lesson';
import { Client } from './client';
import { rounded } from './figures';
import { WatchedSchool } from './watched-school';

/** What comes in one request: about 20 MB of ink. */
const STROKES = 40_000;
/** The limits of an edition (`core/contract/edition`). */
const SEGMENTS = 10_000;
const CAPTIONS = 10_000;
const CAPTION = 'Lay the ruler along both points and read the course where it crosses the rose. '.repeat(4);
const SEGMENT_SAMPLES = 480;

/** How long a server's loop lets everybody else wait while somebody fills a lesson to its limits and works on it. */
export async function benchLargestLesson(): Promise<Record<string, number>> {
  const watched = await WatchedSchool.start();
  try {
    const teacher = new Client(watched.school.url);
    await teacher.json('POST', '/session', DEMO_TEACHER);
    const worst: Record<string, number> = {};
    const step = async <T>(name: string, done: () => Promise<T>): Promise<T> => {
      await watched.loopDelay();
      const answer = await done();
      worst[name] = (await watched.loopDelay()).maxMs;
      return answer;
    };
    const lesson = await teacher.json<LessonDocument>('POST', '/lessons', { title: 'The largest' });
    const at = `/lessons/${lesson.id}`;
    const [{ page }] = lesson.pages;
    const strokes = written(STROKES);
    const marks = encodeMarks(strokes.map((stroke) => ({ kind: 'ink', atSamples: 0, page: page.id, stroke })));
    const changes = JSON.stringify({
      revision: lesson.revision,
      marks: base64(marks),
      history: base64(encodeHistory(NO_HISTORY)),
    });
    await step('save', () => teacher.text('POST', `${at}/changes`, changes));
    await step('open', () => teacher.ask('GET', at));
    const take = await step('record', () => recorded(teacher, lesson));
    const { edit } = await teacher.json<LessonDocument>('GET', at);
    const edited = JSON.stringify({ from: edit, edition: largest(take) });
    const answer = await step('edit', () => teacher.text('PUT', `${at}/edition`, edited));
    const { edit: from } = JSON.parse(answer) as EditState;
    await step('undo', () => teacher.ask('POST', `${at}/edition/undo`, { from }));
    await step('redo', () => teacher.ask('POST', `${at}/edition/redo`, {}));
    await step('version', () => teacher.ask('POST', `${at}/versions`, { name: 'The largest' }));
    await step('copy', () => teacher.ask('POST', `${at}/copy`));
    await step('open_edited', () => teacher.ask('GET', at));
    const template = JSON.stringify({ name: 'Large', page, pieces: base64(encodePieces(strokes)) });
    const kept = await step('template', () => teacher.text('POST', `${at}/templates`, template));
    await step('start', () => teacher.ask('GET', `/templates/${(JSON.parse(kept) as Template).id}/pieces`));
    await step('home', () => teacher.ask('GET', '/lessons'));
    return {
      ...Object.fromEntries(Object.entries(worst).map(([name, ms]) => [`largest_${name}_loop_max_ms`, rounded(ms, 0)])),
      largest_loop_max_ms: rounded(Math.max(...Object.values(worst)), 0),
    };
  } finally {
    await watched.school.close();
  }
}

function written(count: number): Stroke[] {
  const ink = handwriting();
  return Array.from({ length: count }, () => ink.next().value as Stroke);
}

async function recorded(teacher: Client, { id }: LessonDocument): Promise<TakeId> {
  const take = `take-of-${id}`.slice(0, 40) as TakeId;
  await teacher.json('POST', `/lessons/${id}/takes`, { id: take, hasSound: false });
  const toSamples = SEGMENTS * SEGMENT_SAMPLES;
  const part = { marks: [], unfinished: [], toSamples, sound: new Uint8Array(), heard: NOTHING_HEARD };
  await teacher.json('PUT', `/takes/${take}/parts/0`, encodeTakePart(part));
  await teacher.json('POST', `/takes/${take}/end`, { parts: 1 });
  return take;
}

function largest(take: TakeId): Edition {
  const stretch = (n: number) => ({ take, fromSamples: n * SEGMENT_SAMPLES, toSamples: (n + 1) * SEGMENT_SAMPLES });
  return {
    programme: Array.from({ length: SEGMENTS }, (_, n): Segment => ({ kind: 'play', pace: 1, ...stretch(n) })),
    inkEdits: [],
    chapters: [],
    prompts: [],
    captions: Array.from({ length: CAPTIONS }, (_, n) => ({
      id: `caption-${n}` as CaptionId,
      text: CAPTION,
      spans: [stretch(n)],
    })),
    sound: { isEvened: true, isQuieted: false },
  };
}

const base64 = (bytes: Uint8Array) => Buffer.from(bytes).toString('base64');
