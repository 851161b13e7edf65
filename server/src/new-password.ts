import { join } from 'node:path';
import { makeTicket } from './accounts/tickets';
import { inTransaction } from './database/transaction';
import { openDatabase } from './database/open';
import type { TeacherRow } from './database/rows';
import { ROOT } from './place';

/** For whoever runs the server: a link by which a teacher sets a new password, such as the only keeper of the school. */
const [, , email] = process.argv;
const dataFolder = process.env.DATA_DIR ?? join(ROOT, 'data');
const db = await openDatabase(process.env.DATABASE_URL ?? join(dataFolder, 'kite-trail.sqlite'));
const teacher = email ? await db<TeacherRow>('teachers').where({ email: email.toLowerCase() }).first() : undefined;
if (teacher) {
  const { code } = await inTransaction(db, (trx) => makeTicket(trx, teacher.id));
  console.log(`Add this to the school’s address; it is good for one day: /new-password#${code}`);
} else {
  console.error('Say whose: npm run new-password -- somebody@school.example');
  process.exitCode = 1;
}
await db.destroy();
