/**
 * Keeps the screen from going dark, where the browser can (W3C Screen Wake Lock). A window that was out of sight asks anew.
 * @returns lets the screen sleep again
 */
export function stayAwake(): () => void {
  let lock: Promise<WakeLockSentinel | null> = ask();
  const again = () => {
    if (document.visibilityState === 'visible') lock = ask();
  };
  document.addEventListener('visibilitychange', again);
  return () => {
    document.removeEventListener('visibilitychange', again);
    void lock.then((held) => held?.release());
  };
}

/** Where the battery is low the browser may refuse: then the screen does as it always does. */
const ask = async () => (await navigator.wakeLock?.request('screen').catch(() => null)) ?? null;
