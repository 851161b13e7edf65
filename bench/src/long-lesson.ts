import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { DEMO_TEACHER, keepRecording } from '@kite-trail/demo/load';
import { recordedTake } from '@kite-trail/demo/record';
import { tide } from '@kite-trail/demo/teaching/tide';
import type { School } from '@kite-trail/e2e/support/school';
import { openDatabase } from '@kite-trail/server/database/open';
import type { LessonRow, TeacherRow } from '@kite-trail/server/database/rows';
import { makeLesson } from '@kite-trail/server/lessons/lessons';
import { bigLesson } from './big-lesson';

const TITLE = 'An hour at the chart table';

/** Puts a lesson of 60 minutes, 40 pages and 5,000 strokes, with a voice, into the school, unless it is there. */
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
    const lesson = await makeLesson(db, teacher.id, { title: TITLE, className: 'Chartwork' }, base.pages);
    await keepRecording(db, lesson, { ...trail, marks: [...trail.marks], sound: readFileSync(looped) });
    return lesson;
  } finally {
    await db.destroy();
  }
}
