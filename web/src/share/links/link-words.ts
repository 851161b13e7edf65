import type { Link } from '@kite-trail/core/contract/link';

const DAY = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', year: 'numeric' });
const DAY_AND_TIME = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' });

/** How a link stands, in a few words. */
export function stateInWords({ state, settings, isUpToDate }: Link): string {
  if (state === 'withdrawn') return 'Withdrawn';
  const ends = settings.endsAt === null ? '' : DAY_AND_TIME.format(new Date(settings.endsAt));
  if (state === 'ended') return `Ended ${ends}`;
  const now = isUpToDate ? 'Up to date' : 'As it was before your last edits';
  return ends ? `${now}, until ${ends}` : now;
}

/** When a link was last watched; days are all that is kept. */
export const lastWatchedInWords = ({ lastWatchedOn }: Link): string =>
  lastWatchedOn === null ? 'not yet' : DAY.format(new Date(`${lastWatchedOn}T12:00:00Z`));

/** What is special about a link. */
export function rulesInWords({ settings, hasPasscode, part }: Link, className: string | undefined): string[] {
  const { isListed, mayCopy, allows, sites } = settings;
  const said: [boolean, string][] = [
    [className !== undefined, `Page of ${className}`],
    [part !== null, 'A part'],
    [hasPasscode, 'Passcode'],
    [isListed, mayCopy ? 'In the catalogue, to copy' : 'In the catalogue'],
    [allows.download, 'To save'],
    [!allows.captions, 'No captions'],
    [allows.questions, 'Questions'],
    [sites.length > 0, sites.length === 1 ? 'On 1 site' : `On ${sites.length} sites`],
  ];
  return said.filter(([is]) => is).map(([, words]) => words);
}
