import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { loadDemo } from '@kite-trail/demo/load';
import { openDatabase } from '@kite-trail/server/database/open';

/** Loads the demo data once, for all schools that start with it: to speak and write it takes seconds. */
export async function setup(): Promise<() => void> {
  const folder = mkdtempSync(join(tmpdir(), 'kite-trail-demo-'));
  const file = join(folder, 'kite-trail.sqlite');
  const db = await openDatabase(file);
  await loadDemo(db);
  await db.destroy();
  process.env.DEMO_DATABASE = file;
  return () => rmSync(folder, { recursive: true });
}
