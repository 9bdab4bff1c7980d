import { useEffect, useState } from 'react';

const LOOK_MS = 5_000;

/** The present moment in milliseconds, looked at every few seconds; renders again when it changes. */
export function useMinute(): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), LOOK_MS);
    return () => clearInterval(timer);
  }, []);
  return now;
}
