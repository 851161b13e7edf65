import { availableParallelism } from 'node:os';
import type { Knex } from 'knex';
import pLimit from 'p-limit';
import { Piscina } from 'piscina';
import { RequestProblem } from '../http/problem';
import { threadProgram } from '../place';
import { doJob, type Asked, type Found, type JobName } from './jobs';

/** Nothing that is asked for may take longer, once it has begun. */
const LONGEST_MS = 20_000;
/** To read so much, or to fold something into it, takes some milliseconds. */
const SMALL_BYTES = 128 * 1024;
/** Of what a processor has, one is left to answer others. */
const THREADS = Math.max(2, availableParallelism() - 1);
/** A thread that does not answer others may be used up to here; one that asks for more ends, and with it what it did. */
const MOST_HEAP_MB = 1024;
/** Threads that nobody needs for so long end. */
const IDLE_MS = 5 * 60_000;
/** Whoever waits for an answer of the server's comes first. */
const NICE = 5;

/** That a job was refused, and why, on its way between threads. */
export interface Refusal {
  refused: Pick<RequestProblem, 'status' | 'code' | 'message'>;
}

const isRefusal = (answer: unknown): answer is Refusal =>
  typeof answer === 'object' && answer !== null && 'refused' in answer;

/** Whoever does what may take long. */
export interface Work {
  /**
   * @param owner the teacher for whom it is done
   * @param sizeBytes how much there is to do: what is small is done at once, where it is asked for
   * @throws RequestProblem when it is refused, or takes too long
   */
  do<Name extends JobName>(name: Name, owner: string, asked: Asked<Name>, sizeBytes?: number): Promise<Found<Name>>;
}

/**
 * Does what may take long in threads of its own, so that the server answers everybody else meanwhile. Of each teacher's jobs one
 * is done at a time: however many somebody asks for, and however long they take, there is a thread for others.
 */
export class ThreadedWork implements Work {
  private readonly threads: Piscina;
  private readonly lastOf = new Map<string, Promise<unknown>>();
  /** Jobs wait here and not in the pool, which would count their waiting as their doing. */
  private readonly turn = pLimit(THREADS);

  /** @param address the database, as `openDatabase` takes it */
  constructor(
    private readonly db: Knex,
    address: string,
    private readonly longestMs = LONGEST_MS,
  ) {
    const { file, data } = threadProgram('worker');
    this.threads = new Piscina({
      filename: file.href,
      workerData: { ...data, address },
      // One is ready: it takes a while to begin.
      minThreads: 1,
      maxThreads: THREADS,
      idleTimeout: IDLE_MS,
      niceIncrement: NICE,
      resourceLimits: { maxOldGenerationSizeMb: MOST_HEAP_MB },
      // A thread that waits asleep cannot hear what its database connection has to say.
      atomics: 'disabled',
    });
  }

  async do<Name extends JobName>(
    name: Name,
    owner: string,
    asked: Asked<Name>,
    sizeBytes = Infinity,
  ): Promise<Found<Name>> {
    if (sizeBytes <= SMALL_BYTES) return doJob(this.db, name, asked);
    const before = this.lastOf.get(owner);
    const found = (async () => {
      await before?.catch(() => {});
      const answer = (await this.turn(() =>
        this.threads.run({ name, asked }, { signal: AbortSignal.timeout(this.longestMs) }),
      )) as Found<Name> | Refusal;
      if (!isRefusal(answer)) return answer;
      const { status, code, message } = answer.refused;
      throw new RequestProblem(status, code, message);
    })();
    this.lastOf.set(owner, found);
    try {
      return await found;
    } catch (error) {
      if ((error as Error).name !== 'AbortError') throw error;
      // What was too much will be too much again: it is taken in halves, or set aside.
      throw new RequestProblem(413, 'too-much', 'This is more than the school’s server can do at once.');
    } finally {
      if (this.lastOf.get(owner) === found) this.lastOf.delete(owner);
    }
  }

  close(): Promise<void> {
    return this.threads.destroy();
  }
}
