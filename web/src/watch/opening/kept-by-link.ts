/** What this device alone keeps of lessons that were watched on it, by their links: of those watched last. */
export interface KeptByLink<Kept> {
  all(): Record<string, Kept>;
  /** A device that keeps nothing forgets it. */
  keep(token: string, kept: Kept): void;
}

/** @param most of how many lessons it is kept */
export function keptByLink<Kept extends { seenMs: number }>(key: string, most: number): KeptByLink<Kept> {
  function all(): Record<string, Kept> {
    try {
      return JSON.parse(localStorage.getItem(key) ?? '{}') as Record<string, Kept>;
    } catch {
      return {};
    }
  }

  function keep(token: string, kept: Kept): void {
    const entries = Object.entries({ ...all(), [token]: kept });
    entries.sort(([, a], [, b]) => b.seenMs - a.seenMs);
    try {
      localStorage.setItem(key, JSON.stringify(Object.fromEntries(entries.slice(0, most))));
    } catch {
      // It is full, or keeps nothing for this page.
    }
  }

  return { all, keep };
}
