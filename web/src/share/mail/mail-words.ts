import type { Mail } from '@kite-trail/core/contract/mail';
import addressparser from 'nodemailer/lib/addressparser';

const TIME = new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit' });
const DAY = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium' });

/** What became of a letter. */
export function stateInWords({ state, why, doneAt, nextTryAt }: Mail): string {
  if (state === 'sent') return `Sent ${DAY.format(new Date(doneAt!))}`;
  if (state === 'refused') return `Not sent: ${why}`;
  return why === null ? 'On its way' : `${why} Tried again at ${TIME.format(new Date(nextTryAt!))}.`;
}

/**
 * What somebody wrote or pasted as addresses (RFC 5322, with or without names), apart by commas, semicolons or lines. What is no address
 * is there as it was written, so that it is told and not left out.
 */
export const addressesIn = (text: string): string[] =>
  addressparser(text.replace(/[;\n]+/g, ',')).flatMap(({ address, name }) => {
    // Of two without a comma between them, the parser takes the second for a name.
    if (address && !name.includes('@')) return [address];
    return `${address ?? ''} ${name}`.trim() || [];
  });
