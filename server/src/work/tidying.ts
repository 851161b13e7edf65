import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { emptyBins } from '../bin/bin';
import { removeLeftOver } from '../films/encoder';
import { forgetVisits } from '../insight/visits';
import { forgetLivePages } from '../live/live-pages';
import { forgetMails } from '../mail/queue';
import { forgetEndedClasses, forgetGuests } from '../students/forgetting';

const HOUR_MS = 3600 * 1000;

/**
 * Lets go what is not to be kept any longer, now and every hour: visits that are over, to whom letters went, what has lain in bins long
 * enough, live pages nobody shows any more, students whose class ended long ago, and what is left of films. One that
 * fails holds up no other. @returns what ends it
 */
export function keepTidy(db: Knex, log: Logger): () => void {
  const tidy = async () => {
    const failed = (what: string) => (error: unknown) => log.error({ error }, what);
    await forgetVisits(db).catch(failed('visits could not be forgotten'));
    await forgetMails(db).catch(failed('letters could not be forgotten'));
    await forgetLivePages(db).catch(failed('live pages could not be forgotten'));
    await forgetEndedClasses(db).catch(failed('students of classes that ended could not be forgotten'));
    await forgetGuests(db).catch(failed('guests could not be forgotten'));
    await removeLeftOver().catch(failed('what is left of films could not be removed'));
    const gone = await emptyBins(db).catch(failed('bins could not be emptied'));
    if (gone) log.info({ gone }, 'bins emptied');
  };
  void tidy();
  const timer = setInterval(() => void tidy(), HOUR_MS);
  return () => clearInterval(timer);
}
