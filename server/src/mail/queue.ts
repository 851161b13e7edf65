import type { Mail, NewMails } from '@kite-trail/core/contract/mail';
import type { TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import type { LessonRow, LinkRow, MailRow, PublicationRow, TeacherRow } from '../database/rows';
import { inTransaction } from '../database/transaction';
import { conflict, notFound, RequestProblem } from '../http/problem';
import { hasEnded } from '../links/live';
import { letterOf } from './letters';
import type { Letter } from './post';

/** What a teacher may send in a day: enough for all classes, too little for whoever would send to the world. */
const MOST_A_DAY = 400;
const MOST_LISTED = 200;
const MINUTE_MS = 60_000;
const HOUR_MS = 60 * MINUTE_MS;
const DAY_MS = 24 * HOUR_MS;
/** Whoever sends a letter has so long to say what became of it; then it is tried anew. */
const LEASE_MS = 5 * MINUTE_MS;
const LONGEST_WAIT_MS = HOUR_MS;
/** RFC 5321, section 4.5.4.1: whoever sends should try for four or five days. */
const GIVEN_UP_AFTER_MS = 4 * DAY_MS;
/** So long it is told to whom something was sent; then the addresses go. */
const KEPT_FOR_MS = 30 * DAY_MS;

const isoOf = (ms: number): string => new Date(ms).toISOString();

/**
 * Puts letters with a link into the queue, one for each address.
 * @param origin where the teacher reaches this server
 * @throws RequestProblem where the link leads nowhere any more, or these were too many
 */
export async function addMails(
  db: Knex,
  teacher_id: TeacherId,
  link: LinkRow,
  { to, note }: NewMails,
  origin: string,
): Promise<void> {
  if (link.withdrawn_at !== null || hasEnded(link))
    throw conflict('link-over', 'This link leads nowhere any more. Send another one.');
  const now = Date.now();
  const addresses = [...new Map(to.map((one) => [one.toLowerCase(), one])).values()];
  const sent = await db<MailRow>('mails')
    .where({ teacher_id })
    .where('made_at', '>', isoOf(now - DAY_MS))
    .count({ count: '*' })
    .first();
  if (Number(sent!.count) + addresses.length > MOST_A_DAY)
    throw new RequestProblem(
      429,
      'too-many-mails',
      `At most ${MOST_A_DAY} letters can be sent in a day. Wait a little.`,
    );
  for (const address of addresses) {
    await db('mails').insert({
      id: nanoid(),
      teacher_id,
      token: link.token,
      sent_to: address,
      note,
      origin,
      made_at: isoOf(now),
      done_at: null,
      next_try_at: isoOf(now),
      tries: 0,
      why: null,
    } satisfies MailRow);
  }
}

/** The letters a teacher has sent with a lesson's links, the newest first. */
export async function listMails(db: Knex, teacher: TeacherId, lesson: LessonRow): Promise<Mail[]> {
  const rows: MailRow[] = await db('mails')
    .join('links', 'links.token', 'mails.token')
    .where({ 'links.lesson_id': lesson.id, 'mails.teacher_id': teacher })
    .orderBy([{ column: 'mails.made_at', order: 'desc' }, 'mails.sent_to'])
    .limit(MOST_LISTED)
    .select('mails.*');
  return rows.map(({ id, token, sent_to, made_at, done_at, next_try_at, why }) => ({
    id,
    link: token,
    to: sent_to,
    state: done_at === null ? 'waiting' : why === null ? 'sent' : 'refused',
    madeAt: made_at,
    doneAt: done_at,
    nextTryAt: next_try_at,
    why,
  }));
}

/** Takes a letter out of the queue, or off the list. @throws RequestProblem where there is no such letter of theirs */
export async function dropMail(db: Knex, teacher: TeacherId, lesson: LessonRow, id: string): Promise<void> {
  const links = db('links').where({ lesson_id: lesson.id }).select('token');
  const gone = await db('mails').where({ id, teacher_id: teacher }).whereIn('token', links).delete();
  if (gone === 0) throw notFound('letter');
}

/**
 * Takes the letter out of the queue that has waited longest, for a while. Where its link leads nowhere any more, it is refused, and
 * the next one is taken.
 */
export async function takeDue(db: Knex): Promise<Letter | null> {
  for (;;) {
    const taken = await inTransaction(db, takeOne);
    if (taken !== 'refused') return taken;
  }
}

async function takeOne(db: Knex): Promise<Letter | 'refused' | null> {
  const now = Date.now();
  const mail = await db<MailRow>('mails')
    .where('next_try_at', '<=', isoOf(now))
    .orderBy('next_try_at')
    .forUpdate()
    .first();
  if (!mail) return null;
  const link = (await db<LinkRow>('links').where({ token: mail.token }).first())!;
  const lesson = (await db<LessonRow>('lessons').where({ id: link.lesson_id }).first())!;
  if (link.withdrawn_at !== null || hasEnded(link) || lesson.binned_at !== null) {
    await end(db, mail.id, 'The link led nowhere any more.');
    return 'refused';
  }
  await db('mails')
    .where({ id: mail.id })
    .update({ next_try_at: isoOf(now + LEASE_MS), tries: mail.tries + 1 });
  const teacher = (await db<TeacherRow>('teachers').where({ id: mail.teacher_id }).first())!;
  const publication = (await db<PublicationRow>('publications').where({ id: link.publication_id }).first())!;
  return letterOf(mail, teacher, lesson, link, publication);
}

/** The mail server has taken a letter, or will never: then `why` says so. */
export const end = async (db: Knex, id: string, why: string | null): Promise<void> =>
  void (await db('mails')
    .where({ id })
    .update({ done_at: isoOf(Date.now()), next_try_at: null, why }));

/** A letter was not taken: it waits longer each time, and is given up after some days. */
export function putOff(db: Knex, id: string, why: string): Promise<void> {
  return inTransaction(db, async (trx) => {
    const mail = await trx<MailRow>('mails').where({ id }).forUpdate().first();
    if (!mail) return;
    const now = Date.now();
    if (now - Date.parse(mail.made_at) > GIVEN_UP_AFTER_MS) return end(trx, id, why);
    const wait = Math.min(LONGEST_WAIT_MS, MINUTE_MS * 2 ** Math.max(0, mail.tries - 1));
    await trx('mails')
      .where({ id })
      .update({ next_try_at: isoOf(now + wait), why });
  });
}

/** How long until the next letter is due, or `null` where none waits. */
export async function untilDueMs(db: Knex): Promise<number | null> {
  const next = await db<MailRow>('mails').whereNotNull('next_try_at').orderBy('next_try_at').first('next_try_at');
  return next ? Math.max(0, Date.parse(next.next_try_at!) - Date.now()) : null;
}

/** Forgets to whom something was sent, once nobody asks any more. */
export const forgetMails = (db: Knex): Promise<number> =>
  db('mails')
    .where('done_at', '<', isoOf(Date.now() - KEPT_FOR_MS))
    .delete();
