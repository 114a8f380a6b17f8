import { useEffect, useState } from 'react';

export type Awake = 'off' | 'on' | 'not-allowed';

/** Keeps the screen on while a run is recorded, where the browser allows it. */
export function useWakeLock(wanted: boolean): Awake {
  const [awake, setAwake] = useState<Awake>('off');
  useEffect(() => {
    if (!wanted) return undefined;
    let lock: WakeLockSentinel | null = null;
    let over = false;
    const ask = (): void => {
      if (document.visibilityState !== 'visible') return;
      // only pages of a secure origin have it
      if (!('wakeLock' in navigator)) return setAwake('not-allowed');
      navigator.wakeLock.request('screen').then(
        (given) => {
          if (over) return void given.release();
          lock = given;
          setAwake('on');
        },
        () => setAwake('not-allowed'),
      );
    };
    ask();
    // it is lost whenever the page is hidden
    document.addEventListener('visibilitychange', ask);
    return () => {
      over = true;
      document.removeEventListener('visibilitychange', ask);
      void lock?.release();
      setAwake('off');
    };
  }, [wanted]);
  return awake;
}
