/** Work waits here while it is held up. */
export class Gate {
  private readonly listeners = new Set<(isHeld: boolean) => void>();
  private held = false;

  get isHeld(): boolean {
    return this.held;
  }

  hold(isHeld: boolean): void {
    if (isHeld === this.held) return;
    this.held = isHeld;
    for (const hear of [...this.listeners]) hear(isHeld);
  }

  /** Calls a function now, if it is held up, and whenever that changes. @returns a function that ends this */
  onHold(hear: (isHeld: boolean) => void): () => void {
    this.listeners.add(hear);
    if (this.held) hear(true);
    return () => void this.listeners.delete(hear);
  }

  /** Settles as soon as it is open. */
  async passed(): Promise<void> {
    while (this.held) {
      await new Promise<void>((resolve) => {
        const end = this.onHold((isHeld) => {
          if (isHeld) return;
          end();
          resolve();
        });
      });
    }
  }
}
