import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { School } from '@kite-trail/e2e/support/school';
import { probe } from '@kite-trail/e2e/support/video';
import { exportInBrowser } from './export-in-browser';
import { rounded } from './figures';
import { keepLongLesson } from './long-lesson';

/** Exports a lesson of an hour, 40 pages and 5,000 strokes; what it holds must not grow with how far it is. */
export async function benchLongExport(school: School): Promise<Record<string, number>> {
  const folder = mkdtempSync(join(tmpdir(), 'kite-trail-bench-'));
  const { title } = await keepLongLesson(school);
  const { seconds, memoryMb, neededMb } = await exportInBrowser(school, title, folder);
  const exportedSeconds = Number(probe(join(folder, `${title}.mp4`)).format.duration);
  return {
    export_60min_x_realtime: rounded(exportedSeconds / seconds),
    export_60min_peak_mb: rounded(Math.max(...memoryMb), 0),
    export_60min_growth_mb: rounded(neededMb[neededMb.length - 1] - neededMb[0], 0),
  };
}
