import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { openDatabase } from '@kite-trail/server/database/open';
import { DEMO_TEACHER, loadDemo } from './load';
import { shareDemo } from './sharing/share';

/** Loads the demo data where there is none yet, then starts the server and says how to sign in. */
const root = fileURLToPath(new URL('../..', import.meta.url));
process.env.DATA_DIR ??= join(root, 'data', 'demo');
mkdirSync(process.env.DATA_DIR, { recursive: true });
const db = await openDatabase(join(process.env.DATA_DIR, 'kite-trail.sqlite'));
const loaded = await loadDemo(db);
// Tests and measurements share by hand.
if (loaded && !process.env.DEMO_UNSHARED) await shareDemo(db);
await db.destroy();
await import('@kite-trail/server/main');
console.log(
  `${loaded ? 'The demo data is loaded. ' : ''}Sign in as ${DEMO_TEACHER.email} with ${DEMO_TEACHER.password}`,
);
