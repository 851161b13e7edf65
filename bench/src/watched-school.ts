import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { School } from '@kite-trail/e2e/support/school';

/** A school whose server can be asked how long it let others wait, and how much memory it took. */
export class WatchedSchool {
  private constructor(
    readonly school: School,
    private readonly report: string,
  ) {}

  static async start(): Promise<WatchedSchool> {
    const report = join(mkdtempSync(join(tmpdir(), 'kite-trail-loop-')), 'report.json');
    const watching = `--import ${new URL('./loop-watch.mjs', import.meta.url).href}`;
    const school = await School.start('demo', { NODE_OPTIONS: watching, LOOP_REPORT: report });
    return new WatchedSchool(school, report);
  }

  /** How long its loop let others wait since it was asked last. */
  async loopDelay(): Promise<{ p99Ms: number; maxMs: number }> {
    rmSync(this.report, { force: true });
    process.kill(this.school.pid, 'SIGUSR2');
    for (;;) {
      await setTimeout(20);
      try {
        return JSON.parse(readFileSync(this.report, 'utf8')) as { p99Ms: number; maxMs: number };
      } catch {
        // It is being written.
      }
    }
  }

  /** What the process holds now, and the most it has held since `forgetPeak` (proc(5)). */
  memoryMb(): { now: number; peak: number } {
    const status = readFileSync(`/proc/${this.school.pid}/status`, 'utf8');
    const mb = (field: string) => Number(new RegExp(`^${field}:\\s+(\\d+)`, 'm').exec(status)![1]) / 1024;
    return { now: mb('VmRSS'), peak: mb('VmHWM') };
  }

  forgetPeak(): void {
    writeFileSync(`/proc/${this.school.pid}/clear_refs`, '5');
  }
}
