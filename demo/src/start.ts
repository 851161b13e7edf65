import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { openDatabase } from '@kite-trail/server/database/open';
import { hasTeachers } from '@kite-trail/server/accounts/accounts';
import { ROOT } from '@kite-trail/server/place';
import { Mailbox } from './mailbox/mailbox';
import { showMailbox } from './mailbox/mailbox-page';
import { StandInDrive } from './drive/stand-in';
import { StandInAccounts } from './school-accounts/stand-in';
import { ACCOUNTS } from './school-accounts/people';
import { DEMO_TEACHER, DRIVE_USERS } from './teachers';

/** Loads the demo data where there is none yet, then starts the server and says how to sign in. */
process.env.DATA_DIR ??= join(ROOT, 'data', 'demo');
mkdirSync(process.env.DATA_DIR, { recursive: true });
const db = await openDatabase(join(process.env.DATA_DIR, 'kite-trail.sqlite'));
const isNew = !(await hasTeachers(db));
// What makes the demo's lessons is much to read, and needed once.
if (isNew) {
  const { loadDemo, loadSecondTerm } = await import('./load');
  await loadDemo(db);
  // Tests and measurements go on with the first term, and share by hand.
  if (!process.env.DEMO_UNSHARED) {
    const { shareDemo } = await import('./sharing/share');
    await loadSecondTerm(db);
    await shareDemo(db);
    const { giveTask } = await import('./tasks/give-task');
    await giveTask(db);
  }
}
await db.destroy();
const PORT = Number(process.env.PORT ?? 4400);
const mailbox = await Mailbox.open(join(process.env.DATA_DIR, 'mailbox'));
process.env.SMTP_URL ??= mailbox.address;
const { address } = await showMailbox(mailbox, PORT + 1);
console.log(`The stand-in mailbox is at ${address}`);
const accounts = await StandInAccounts.open(ACCOUNTS, `http://localhost:${PORT}`, PORT + 2);
process.env.OIDC_ISSUER ??= accounts.issuer;
process.env.OIDC_CLIENT_ID ??= accounts.clientId;
process.env.OIDC_CLIENT_SECRET ??= accounts.clientSecret;
process.env.OIDC_NAME ??= 'Sandhaven’s accounts';
const drive = await StandInDrive.open(join(process.env.DATA_DIR, 'drive'), DRIVE_USERS, PORT + 3);
process.env.DRIVES ??= `Boat house = ${drive.address}`;
console.log(
  `The stand-in drive is at ${drive.address}; it knows ${DRIVE_USERS[0].userName} with ${DRIVE_USERS[0].password}`,
);
await import('@kite-trail/server/main');
if (isNew && !process.env.DEMO_UNSHARED) {
  // The school can be looked at meanwhile.
  const { fillDrive } = await import('./taken-away/fill-drive');
  void fillDrive(`http://localhost:${PORT}`, join(process.env.DATA_DIR, 'drive')).then(console.log, console.error);
}
console.log(
  `${isNew ? 'The demo data is loaded. ' : ''}Sign in as ${DEMO_TEACHER.email} with ${DEMO_TEACHER.password}`,
);
