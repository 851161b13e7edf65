import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { joinHeard, ProfileGatherer, type HeardVoice } from '@kite-trail/core/sound/profile';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { keepRecording } from '@kite-trail/demo/load';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { recordedTake } from '@kite-trail/demo/record';
import { tide } from '@kite-trail/demo/teaching/tide';
import type { School } from '@kite-trail/e2e/support/school';
import { openDatabase } from '@kite-trail/server/database/open';
import type { LessonRow, TeacherRow } from '@kite-trail/server/database/rows';
import { makeLesson, writtenPage } from '@kite-trail/server/lessons/lessons';
import { decodeSound, openSound } from '@kite-trail/web/workers/sound/take-sound-reader';
import { bigLesson } from './big-lesson';

const TITLE = 'An hour at the chart table';

/**
 * Puts a lesson of 60 minutes, 40 pages and 5,000 strokes, with a voice, into the school, unless it is there. Its recording
 * broke off: the last minute of the voice was not listened to.
 */
export async function keepLongLesson(school: School): Promise<LessonRow> {
  const db = await openDatabase(join(school.folder, 'kite-trail.sqlite'));
  try {
    const present = await db<LessonRow>('lessons').where({ title: TITLE }).first();
    if (present) return present;
    const { base, trail } = bigLesson();
    const folder = mkdtempSync(join(tmpdir(), 'kite-trail-bench-'));
    const once = join(folder, 'once.ogg');
    const looped = join(folder, 'looped.ogg');
    execFileSync('tee', [once], { input: recordedTake(tide).sound, stdio: ['pipe', 'ignore', 'inherit'] });
    const length = String(trail.lengthSamples / CLOCK_HZ);
    execFileSync('ffmpeg', ['-v', 'error', '-stream_loop', '-1', '-i', once, '-t', length, '-c:a', 'copy', looped]);
    const teacher = (await db<TeacherRow>('teachers').where({ email: DEMO_TEACHER.email }).first())!;
    const lesson = await makeLesson(db, teacher.id, TITLE, base.pages.map(writtenPage));
    const sound = readFileSync(looped);
    await keepRecording(db, lesson, { ...trail, marks: [...trail.marks], sound, heard: await wholeMinutesOf(sound) });
    return lesson;
  } finally {
    await db.destroy();
  }
}

/** What a recording browser had heard of a voice when it broke off. */
async function wholeMinutesOf(sound: Buffer): Promise<HeardVoice> {
  const url = URL.createObjectURL(new Blob([new Uint8Array(sound)]));
  const gatherer = new ProfileGatherer();
  for await (const { samples } of decodeSound((await openSound(url))!)) gatherer.add(samples);
  URL.revokeObjectURL(url);
  return joinHeard(gatherer.takeMinutes());
}
