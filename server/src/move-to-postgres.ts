import { existsSync } from 'node:fs';
import { moveSchool } from './database/move';
import { openDatabase } from './database/open';

const [, , file] = process.argv;
const url = process.env.DATABASE_URL;
if (!file || !existsSync(file) || !url) {
  console.error(
    'Stop the school first, then: DATABASE_URL=postgres://… npm run move-to-postgres data/kite-trail.sqlite',
  );
  process.exit(1);
}

const [from, to] = [await openDatabase(file), await openDatabase(url)];
try {
  const moved = await moveSchool(from, to);
  for (const [table, count] of moved) console.log(`${table}: ${count}`);
  console.log('All of it is there as it was. The file stays as it is.');
} catch (error) {
  console.error((error as Error).message);
  process.exitCode = 1;
} finally {
  await Promise.all([from.destroy(), to.destroy()]);
}
