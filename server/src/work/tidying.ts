import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { emptyBins } from './bin';

const HOUR_MS = 3600 * 1000;

/** Empties the bins of what has lain there long enough, now and every hour. @returns what ends it */
export function keepEmptying(db: Knex, log: Logger): () => void {
  const empty = () =>
    emptyBins(db).then(
      (gone) => gone > 0 && log.info({ gone }, 'bins emptied'),
      (error: unknown) => log.error({ error }, 'bins could not be emptied'),
    );
  void empty();
  const timer = setInterval(() => void empty(), HOUR_MS);
  return () => clearInterval(timer);
}
