import { Gate } from '../workers/gate';
import { aborted, type Told } from '../workers/told';

/**
 * Something that is made once for all who want it. All hear how far it is; it waits while all who want it are held up, and is given up
 * when nobody wants it any more.
 */
export class SharedMaking {
  private readonly made: Promise<Blob>;
  private readonly wanted = new Set<Told>();
  private readonly abort = new AbortController();
  private readonly gate = new Gate();
  private done = 0;
  private over = () => {};

  constructor(make: (told: Required<Told>) => Promise<Blob>) {
    const { signal } = this.abort;
    this.made = make({ signal, gate: this.gate, onDone: (done) => this.tell(done) });
    // Whoever wants it hears why it failed.
    this.made.catch(() => {}).finally(() => this.over());
  }

  /** Calls a function when it is made, has failed, or is given up. */
  onOver(hear: () => void): void {
    this.over = hear;
  }

  /** @throws DOMException `AbortError` when whoever wants it gives it up; what making it throws */
  async wantedBy(told: Told): Promise<Blob> {
    const own = { ...told };
    this.wanted.add(own);
    const free = own.gate?.onHold(() => this.weigh());
    this.weigh();
    own.onDone?.(this.done);
    try {
      return await Promise.race([this.made, aborted(own.signal)]);
    } finally {
      free?.();
      this.wanted.delete(own);
      if (this.wanted.size > 0) this.weigh();
      else this.giveUp();
    }
  }

  private tell(done: number): void {
    this.done = done;
    for (const { onDone } of this.wanted) onDone?.(done);
  }

  private weigh(): void {
    this.gate.hold([...this.wanted].every(({ gate }) => gate?.isHeld));
  }

  /** Whoever wants it from now on has it made anew. */
  private giveUp(): void {
    this.over();
    this.abort.abort(new DOMException('Nobody wants it any more.', 'AbortError'));
  }
}
