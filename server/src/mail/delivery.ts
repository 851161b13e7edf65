import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { PostProblem, type Post } from './post';
import { end, putOff, takeDue, untilDueMs } from './queue';

const LONGEST_SLEEP_MS = 60_000;

/** Sends the letters that are due, one after the other. */
export class Delivery {
  private isOver = false;
  private running: Promise<void> = Promise.resolve();
  private timer: NodeJS.Timeout | undefined;

  constructor(
    private readonly db: Knex,
    private readonly post: Post,
    private readonly log: Logger,
  ) {}

  /** There may be letters to send. @returns when those that were due have been tried */
  wake(): Promise<void> {
    clearTimeout(this.timer);
    this.running = this.running
      .then(() => this.sendDue())
      .catch((error: unknown) => {
        this.log.error({ error }, 'letters could not be sent');
      });
    return this.running.then(() => this.sleep());
  }

  /** Sends nothing more. @returns when the letter that is being sent has been dealt with */
  async close(): Promise<void> {
    this.isOver = true;
    clearTimeout(this.timer);
    await this.running;
  }

  private async sendDue(): Promise<void> {
    while (!this.isOver) {
      const letter = await takeDue(this.db);
      if (!letter) return;
      const problem = await this.post.send(letter).then(
        () => null,
        (error: unknown) => (error instanceof PostProblem ? error : new PostProblem(String(error), 'later')),
      );
      if (problem) this.log.warn({ mail: letter.mail, problem: problem.message }, 'a letter was not taken');
      if (problem === null || problem.concerns === 'letter') await end(this.db, letter.mail, problem?.message ?? null);
      else await putOff(this.db, letter.mail, problem.message);
      // Where there is no mail server, each of a hundred letters would wait for it in vain.
      if (problem?.concerns === 'all') return this.putOffAll(problem.message);
    }
  }

  private async putOffAll(why: string): Promise<void> {
    for (let letter = await takeDue(this.db); letter; letter = await takeDue(this.db))
      await putOff(this.db, letter.mail, why);
  }

  private async sleep(): Promise<void> {
    clearTimeout(this.timer);
    const dueMs = await untilDueMs(this.db).catch(() => LONGEST_SLEEP_MS);
    if (this.isOver || dueMs === null) return;
    this.timer = setTimeout(() => void this.wake(), Math.min(dueMs, LONGEST_SLEEP_MS));
    this.timer.unref();
  }
}
