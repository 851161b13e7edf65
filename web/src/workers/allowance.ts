/** How far one of two encoders may run ahead of the other: what is ahead, about a megabyte, waits to be interleaved. */
const AHEAD_SECONDS = 60;

/** A moving limit: whoever would pass it waits until it has moved on. */
export class Allowance {
  private limit = AHEAD_SECONDS;
  private waiting: { seconds: number; go: () => void }[] = [];

  moveTo(otherSeconds: number): void {
    this.limit = Math.max(this.limit, otherSeconds + AHEAD_SECONDS);
    const free = this.waiting.filter((one) => one.seconds <= this.limit);
    this.waiting = this.waiting.filter((one) => one.seconds > this.limit);
    for (const one of free) one.go();
  }

  reach(seconds: number): Promise<void> {
    if (seconds <= this.limit) return Promise.resolve();
    return new Promise((go) => this.waiting.push({ seconds, go }));
  }
}
