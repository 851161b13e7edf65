import { writeFileSync } from 'node:fs';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { isMainThread } from 'node:worker_threads';

/**
 * Is loaded into a server before it starts (`--import`), and watches how long its loop lets others wait. At SIGUSR2 it writes
 * what it has seen since the last time into the file that `LOOP_REPORT` names, in milliseconds.
 */
if (isMainThread) {
  const delay = monitorEventLoopDelay({ resolution: 2 });
  delay.enable();
  process.on('SIGUSR2', () => {
    const told = { p99Ms: delay.percentile(99) / 1e6, maxMs: delay.max / 1e6 };
    delay.reset();
    writeFileSync(process.env.LOOP_REPORT, JSON.stringify(told));
  });
}
