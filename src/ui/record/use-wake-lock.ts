import { useEffect } from 'react';

/** Keeps the screen awake for as long as it is asked; a browser that cannot, or a hidden page, goes without. */
export function useWakeLock(wanted: boolean): void {
  useEffect(() => {
    if (!wanted || !('wakeLock' in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    let current = true;
    const hold = async () => {
      if (document.visibilityState !== 'visible' || (lock && !lock.released)) return;
      const got = await navigator.wakeLock.request('screen').catch(() => null);
      if (current) lock = got;
      else void got?.release();
    };
    void hold();
    // Browsers let go of it whenever the page is hidden.
    document.addEventListener('visibilitychange', hold);
    return () => {
      current = false;
      document.removeEventListener('visibilitychange', hold);
      void lock?.release();
    };
  }, [wanted]);
}
