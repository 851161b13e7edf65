import { z } from 'zod';
import { line, text, watchToken } from './primitives';

const ADDRESS = 'An address is written like anna@school.example';
const MOST_AT_ONCE = 50;

/** RFC 5321, section 4.5.3.1.3: a path has at most 256 octets, with its brackets. */
const address = line.max(254, ADDRESS).pipe(z.email(ADDRESS));

/** A link that is sent to people, each in a letter of their own. */
export const newMails = z.object({
  to: z
    .array(address)
    .min(1, 'Write at least one address.')
    .max(MOST_AT_ONCE, `Send to at most ${MOST_AT_ONCE} addresses at once.`),
  note: text.max(1000, 'Use at most 1,000 letters.'),
});
export type NewMails = z.output<typeof newMails>;

export const mailId = z.string().regex(/^[A-Za-z0-9_-]{21}$/, 'This is not a letter.');

/** A letter with a link, as its teacher sees it. */
export const mail = z.object({
  id: mailId,
  link: watchToken,
  to: z.string(),
  /** `refused`: it will not be sent any more. */
  state: z.enum(['waiting', 'sent', 'refused']),
  madeAt: z.string(),
  /** When it was sent or refused. */
  doneAt: z.string().nullable(),
  /** When it is tried next, while it waits. */
  nextTryAt: z.string().nullable(),
  /** Why it has not been sent. */
  why: z.string().nullable(),
});
export type Mail = z.output<typeof mail>;

/** `isSetUp`: the school has a mail server. */
export const mails = z.object({ isSetUp: z.boolean(), mails: z.array(mail) });
export type Mails = z.output<typeof mails>;
