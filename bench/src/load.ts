import { createHash, randomBytes } from 'node:crypto';
import { setTimeout } from 'node:timers/promises';
import type { Ticket } from '@kite-trail/core/contract/account';
import type { LessonDocument, LessonSummary } from '@kite-trail/core/contract/lesson';
import { UPLOAD_PART_BYTES } from '@kite-trail/core/contract/upload';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import { encodeTakePart } from '@kite-trail/core/formats/take-part';
import type { Mark } from '@kite-trail/core/lesson/mark';
import type { Stroke } from '@kite-trail/core/lesson/piece';
import { NOTHING_HEARD } from '@kite-trail/core/sound/profile';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { handwriting } from './big-lesson';
import { Client } from './client';
import { p95, rounded } from './figures';
import { WatchedSchool } from './watched-school';

const WATCHING = 300;
const RECORDING = 30;
const FOR_MS = 120_000;
const PART_MS = 600;
/** 64 kbit/s. */
const SOUND_BYTES_A_PART = 4800;
/** A word or two are written in a part. */
const STROKES_A_PART = 2;
/** Whoever watches listens on, and goes to another place now and then. */
const LOOKS_AROUND_MS = 10_000;
const RANGE_BYTES = 64 * 1024;
const HOUR_PARTS = 6000;
const FILE_BYTES = 50 * 2 ** 20;
const FILES = 4;

/**
 * A school's morning: 300 students watch and 30 teachers record at once for two minutes; what was sent is read back and counted.
 * Then a recording of an hour ends, and four files of 50 MB come, one after the other.
 */
export async function benchLoad(): Promise<Record<string, number>> {
  const watched = await WatchedSchool.start();
  try {
    const { url } = watched.school;
    const keeper = new Client(url);
    await keeper.json('POST', '/session', DEMO_TEACHER);
    const link = await sharedLink(keeper);
    const teachers = await teachersOf(keeper, url);
    const students = Array.from({ length: WATCHING }, () => new Client(url));
    for (const { tookMs } of teachers) tookMs.length = 0;
    await watched.loopDelay();
    const lost = await Promise.all([
      ...students.map((student) => watch(student, link)),
      ...teachers.map((teacher) => record(teacher, FOR_MS / PART_MS, PART_MS)),
    ]);
    const { p99Ms } = await watched.loopDelay();
    const tookMs = [...students, ...teachers].flatMap((one) => one.tookMs);
    const [first] = teachers;
    return {
      load_requests: tookMs.length,
      load_p95_ms: rounded(p95(tookMs), 1),
      load_lost: lost.reduce((sum, one) => sum + one),
      loop_delay_p99_ms: rounded(p99Ms, 1),
      ...(await longTake(watched, first)),
      ...(await largeFiles(watched, first)),
    };
  } finally {
    await watched.school.close();
  }
}

/** The address under which a demo lesson is watched. */
async function sharedLink(keeper: Client): Promise<string> {
  const lessons = await keeper.json<LessonSummary[]>('GET', '/lessons');
  const recorded = lessons.find(({ lengthSamples }) => lengthSamples > 0)!;
  const { edit, takes } = await keeper.json<LessonDocument>('GET', `/lessons/${recorded.id}`);
  // The voice as it was recorded, in the place of what a browser would mix of it.
  const { bytes } = await keeper.ask('GET', `/takes/${takes[0].id}/sound`);
  const sound = Buffer.concat([Buffer.from('\0\0\0\x18ftypM4A '), bytes]);
  const asset = await uploaded(keeper, sound);
  const { link } = await keeper.json<LessonDocument>('POST', `/lessons/${recorded.id}/publications/${edit.n}`, {
    sound: asset,
  });
  return `/watch/${link!.token}`;
}

async function uploaded(client: Client, bytes: Uint8Array): Promise<string> {
  const asset = createHash('sha256').update(bytes).digest('hex');
  for (let n = 0; n * UPLOAD_PART_BYTES < bytes.length; n++) {
    const part = bytes.subarray(n * UPLOAD_PART_BYTES, (n + 1) * UPLOAD_PART_BYTES);
    await client.ask('PUT', `/uploads/${asset}/parts/${n}`, part);
  }
  return asset;
}

/** Teachers who were invited, and are signed in. */
async function teachersOf(keeper: Client, url: string): Promise<Client[]> {
  const teachers: Client[] = [];
  for (let n = 0; n < RECORDING; n++) {
    const { code } = await keeper.json<Ticket>('POST', '/tickets', { teacher: null });
    const teacher = new Client(url);
    const account = {
      code,
      name: `Teacher ${n}`,
      email: `teacher-${n}@sandhaven.example`,
      password: 'lee-of-the-island',
    };
    await teacher.json('POST', '/tickets/joining', account);
    teachers.push(teacher);
  }
  return teachers;
}

/** Opens the link in the first half of the time, loads all it plays, and looks around in it. @returns how many answers were none */
async function watch(student: Client, link: string): Promise<number> {
  const untilMs = performance.now() + FOR_MS;
  await setTimeout(Math.random() * (FOR_MS / 2));
  const failed: number[] = [];
  const get = async (path: string, headers = {}) => {
    const { status, bytes } = await student.ask('GET', path, undefined, headers);
    if (status >= 400) failed.push(status);
    return bytes;
  };
  const { publication } = JSON.parse(Buffer.from(await get(link)).toString()) as { publication: string };
  const played = `${link}/publications/${publication}`;
  await get(`${played}/payload`);
  const sound = await get(`${played}/sound`);
  while (performance.now() + LOOKS_AROUND_MS < untilMs) {
    await setTimeout(LOOKS_AROUND_MS);
    const from = Math.floor(Math.random() * Math.max(1, sound.length - RANGE_BYTES));
    await get(`${played}/sound`, { range: `bytes=${from}-${from + RANGE_BYTES - 1}` });
  }
  return failed.length;
}

/** Records a take, part after part. @returns how many strokes and parts of its voice are not there afterwards */
async function record(teacher: Client, parts: number, everyMs: number): Promise<number> {
  const lesson = await teacher.json<LessonDocument>('POST', '/lessons', { title: 'Recorded in the morning' });
  const take = await begunTake(teacher, lesson);
  const sounds: Uint8Array[] = [];
  const ink = handwriting();
  let nextMs = performance.now() + Math.random() * everyMs;
  for (let n = 0; n < parts; n++) {
    await setTimeout(Math.max(0, nextMs - performance.now()));
    nextMs += everyMs;
    const sound = new Uint8Array(randomBytes(SOUND_BYTES_A_PART));
    sounds.push(sound);
    await teacher.json('PUT', `/takes/${take}/parts/${n}`, partOf(lesson, n, sound, ink));
  }
  await teacher.json('POST', `/takes/${take}/end`, { parts });
  return missingFrom(teacher, take, sounds);
}

async function begunTake(teacher: Client, { id }: LessonDocument): Promise<string> {
  const take = `take-of-${id}`.slice(0, 40);
  await teacher.json('POST', `/lessons/${id}/takes`, { id: take, hasSound: true });
  return take;
}

function partOf({ pages }: LessonDocument, n: number, sound: Uint8Array, ink: Generator<Stroke>): Uint8Array {
  const everySamples = (PART_MS / 1000) * CLOCK_HZ;
  const marks = Array.from({ length: STROKES_A_PART }, (): Mark => ({
    kind: 'ink',
    page: pages[0].page.id,
    atSamples: n * everySamples,
    stroke: ink.next().value as Stroke,
  }));
  return encodeTakePart({ marks, unfinished: [], toSamples: (n + 1) * everySamples, sound, heard: NOTHING_HEARD });
}

async function missingFrom(teacher: Client, take: string, sounds: readonly Uint8Array[]): Promise<number> {
  const marks = decodeMarks((await teacher.ask('GET', `/takes/${take}/marks`)).bytes);
  const strokes = new Set(marks.map((mark) => (mark.kind === 'ink' ? mark.stroke.id : ''))).size;
  const sound = Buffer.from((await teacher.ask('GET', `/takes/${take}/sound`)).bytes);
  const heard = sounds.filter((one, n) =>
    sound.subarray(n * SOUND_BYTES_A_PART, (n + 1) * SOUND_BYTES_A_PART).equals(one),
  );
  return sounds.length * STROKES_A_PART - strokes + (sounds.length - heard.length);
}

/** How long a recording of an hour takes to end, and how long others wait meanwhile. */
async function longTake(watched: WatchedSchool, teacher: Client): Promise<Record<string, number>> {
  const lesson = await teacher.json<LessonDocument>('POST', '/lessons', { title: 'An hour' });
  const take = await begunTake(teacher, lesson);
  const ink = handwriting();
  for (let n = 0; n < HOUR_PARTS; n++) {
    const sound = new Uint8Array(randomBytes(SOUND_BYTES_A_PART));
    await teacher.json('PUT', `/takes/${take}/parts/${n}`, partOf(lesson, n, sound, ink));
  }
  await watched.loopDelay();
  const began = performance.now();
  await teacher.json('POST', `/takes/${take}/end`, { parts: HOUR_PARTS });
  const endMs = performance.now() - began;
  return { take_end_60min_ms: rounded(endMs, 0), take_end_loop_max_ms: rounded((await watched.loopDelay()).maxMs, 0) };
}

/** How much memory the server takes for 200 MB of files, above what it holds anyway, and how long others wait meanwhile. */
async function largeFiles(watched: WatchedSchool, teacher: Client): Promise<Record<string, number>> {
  const { id } = await teacher.json<LessonDocument>('POST', '/lessons', { title: 'Large files' });
  watched.forgetPeak();
  const { now } = watched.memoryMb();
  await watched.loopDelay();
  for (let n = 0; n < FILES; n++) {
    const file = Buffer.concat([Buffer.from('%PDF-1.7\n'), randomBytes(FILE_BYTES)]);
    await teacher.json('POST', `/lessons/${id}/assets`, { asset: await uploaded(teacher, file), name: `${n}.pdf` });
  }
  return {
    upload_200mb_peak_mb: rounded(watched.memoryMb().peak - now, 0),
    upload_200mb_loop_max_ms: rounded((await watched.loopDelay()).maxMs, 0),
  };
}
