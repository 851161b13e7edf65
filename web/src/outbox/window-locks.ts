const lockOf = (window: string) => `kite-trail-window-${window}`;

/** Which windows of this browser are there: each holds a Web Lock of its own as long as it is. */
export interface WindowLocks {
  /** This window. */
  readonly window: string;
  /** Inherits from windows that are gone, at once, and from the others when they go. */
  inherit(windows: readonly string[], inheritFrom: (window: string, isAtOnce: boolean) => Promise<void>): Promise<void>;
}

/** Windows' locks in a browser. Without Web Locks, as on insecure addresses, nobody can tell which windows are there: then nothing is inherited. */
export class WebWindowLocks implements WindowLocks {
  private readonly waitedFor = new Set<string>();
  private readonly gone = new AbortController();

  constructor(readonly window: string) {
    const { signal } = this.gone;
    const hold = () => new Promise<void>((letGo) => signal.addEventListener('abort', () => letGo()));
    void globalThis.navigator?.locks?.request(lockOf(window), { signal }, hold).catch(() => {});
  }

  /** This window goes: others may inherit from it. */
  leave(): void {
    this.gone.abort();
  }

  async inherit(
    windows: readonly string[],
    inheritFrom: (window: string, isAtOnce: boolean) => Promise<void>,
  ): Promise<void> {
    const locks = globalThis.navigator?.locks;
    if (!locks) return;
    for (const window of windows.filter((one) => !this.waitedFor.has(one))) {
      const isGone = await locks.request(lockOf(window), { ifAvailable: true }, async (lock) => {
        if (lock) await inheritFrom(window, true);
        return lock !== null;
      });
      if (isGone) continue;
      this.waitedFor.add(window);
      void locks.request(lockOf(window), () => inheritFrom(window, false));
    }
  }
}
