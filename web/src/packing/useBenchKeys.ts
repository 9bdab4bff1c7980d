import type { ScanIn } from '@auk/contract';
import { useEffect, useRef } from 'react';
import type { BenchKey } from './benchKeys.js';
import type { LabelDesk } from './useLabelDesk.js';

interface Acts {
  /** Null once the order is closed: then a number buys a label and does nothing else; pressed twice, it undoes nothing. */
  keys: readonly BenchKey[] | null;
  desk: LabelDesk;
  take: (text: string, by?: ScanIn['by']) => void;
  /** What F8 does, when it does something. */
  give: (() => void) | null;
}

/** The bench by keyboard: Alt and a number, F6, F8. */
export function useBenchKeys(acts: Acts): void {
  const newest = useRef(acts);
  newest.current = acts;
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const { keys, desk, take, give } = newest.current;
      const numbered = (event.altKey && /^\d$/.test(event.key)) || event.key === 'F6';
      if (!numbered && !(event.key === 'F8' && give)) return;
      event.preventDefault();
      if (!numbered) return give?.();
      if (keys !== null) {
        const key = keys.find(k => k.key === event.key);
        if (key) take(key.scans, key.by);
      } else if (event.key === 'F6') return;
      else if (!desk.offers) desk.askAgain();
      else if (desk.label?.state !== 'bought') desk.buy(Number(event.key) - 1);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
}
