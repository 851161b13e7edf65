import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { emptyBins } from '../bin/bin';
import { forgetVisits } from '../insight/visits';

const HOUR_MS = 3600 * 1000;

/** Lets go what is not to be kept any longer: what has lain in bins long enough, and visits that are over; now and every hour. @returns what ends it */
export function keepTidy(db: Knex, log: Logger): () => void {
  const tidy = async () => {
    try {
      const gone = await emptyBins(db);
      if (gone > 0) log.info({ gone }, 'bins emptied');
      await forgetVisits(db);
    } catch (error) {
      log.error({ error }, 'the school could not be tidied');
    }
  };
  void tidy();
  const timer = setInterval(() => void tidy(), HOUR_MS);
  return () => clearInterval(timer);
}
