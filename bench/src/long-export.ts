import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { DEMO_TEACHER, keepRecording } from '@kite-trail/demo/load';
import { recordedTake } from '@kite-trail/demo/record';
import { tide } from '@kite-trail/demo/teaching/tide';
import type { School } from '@kite-trail/e2e/support/school';
import { probe } from '@kite-trail/e2e/support/video';
import { openDatabase } from '@kite-trail/server/database/open';
import type { TeacherRow } from '@kite-trail/server/database/rows';
import { makeLesson } from '@kite-trail/server/lessons/lessons';
import { bigLesson } from './big-lesson';
import { exportInBrowser } from './export-in-browser';
import { rounded } from './figures';

const TITLE = 'An hour at the chart table';

/** Exports a lesson of an hour, 40 pages and 5,000 strokes; what it holds must not grow with how far it is. */
export async function benchLongExport(school: School): Promise<Record<string, number>> {
  const folder = mkdtempSync(join(tmpdir(), 'kite-trail-bench-'));
  await keepLongLesson(school, folder);
  const { seconds, memoryMb, neededMb } = await exportInBrowser(school, TITLE, folder);
  const exportedSeconds = Number(probe(join(folder, `${TITLE}.mp4`)).format.duration);
  return {
    export_60min_x_realtime: rounded(exportedSeconds / seconds),
    export_60min_peak_mb: rounded(Math.max(...memoryMb), 0),
    export_60min_growth_mb: rounded(neededMb[neededMb.length - 1] - neededMb[0], 0),
  };
}

async function keepLongLesson(school: School, folder: string): Promise<void> {
  const { base, trail } = bigLesson();
  const once = join(folder, 'once.ogg');
  const looped = join(folder, 'looped.ogg');
  execFileSync('tee', [once], { input: recordedTake(tide).sound, stdio: ['pipe', 'ignore', 'inherit'] });
  const length = String(trail.lengthSamples / CLOCK_HZ);
  execFileSync('ffmpeg', ['-v', 'error', '-stream_loop', '-1', '-i', once, '-t', length, '-c:a', 'copy', looped]);
  const db = await openDatabase(join(school.folder, 'kite-trail.sqlite'));
  const teacher = (await db<TeacherRow>('teachers').where({ email: DEMO_TEACHER.email }).first())!;
  const lesson = await makeLesson(db, teacher.id, { title: TITLE, className: 'Chartwork' }, base.pages);
  await keepRecording(db, lesson, { ...trail, marks: [...trail.marks], sound: readFileSync(looped) });
  await db.destroy();
}
