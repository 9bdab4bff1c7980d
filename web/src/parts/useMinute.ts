import { DateTime } from 'luxon';
import { useEffect, useState } from 'react';

const LOOK_MS = 5_000;

/** The present minute; renders again when it changes. */
export function useMinute(): DateTime {
  const [now, setNow] = useState(() => DateTime.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(DateTime.now()), LOOK_MS);
    return () => clearInterval(timer);
  }, []);
  return now;
}
