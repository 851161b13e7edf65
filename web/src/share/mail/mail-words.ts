import type { Mail } from '@kite-trail/core/contract/mail';

const TIME = new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit' });
const DAY = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium' });

/** What became of a letter. */
export function stateInWords({ state, why, doneAt, nextTryAt }: Mail): string {
  if (state === 'sent') return `Sent ${DAY.format(new Date(doneAt!))}`;
  if (state === 'refused') return `Not sent: ${why}`;
  return why === null ? 'On its way' : `${why} Tried again at ${TIME.format(new Date(nextTryAt!))}.`;
}

/** The addresses in what somebody wrote or pasted: apart by spaces, commas, semicolons or lines, with or without names. */
export function addressesIn(text: string): string[] {
  return text
    .replace(/"[^"]*"/g, ' ')
    .split(/[\s,;<>]+/)
    .filter((word) => word.includes('@'));
}
