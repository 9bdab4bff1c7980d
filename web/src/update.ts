import { useEffect } from 'react';
import { Workbox } from 'workbox-window';
import { outbox } from './scans/theOutbox.js';

const HOUR_MS = 3_600_000;
const FIRST_SCAN_MS = 4_000;

/** Takes the new version that waits; null while none does. */
let take: (() => void) | null = null;
/** How many screens are shown at which nothing is under way. */
let quiet = 0;

/** A new version is taken where nothing is under way and no scan waits; never within a list. */
function takeIfQuiet(): void {
  if (!take || quiet === 0 || outbox.look().pending.length > 0) return;
  const now = take;
  take = null;
  now();
}

/** Makes the pages start without a network, and looks for new versions now and then. Only where browsers allow it: on loopback and over TLS. */
export function startOffline(): void {
  if (!('serviceWorker' in navigator) || import.meta.env.DEV) return;
  const worker = new Workbox('/sw.js');
  worker.addEventListener('waiting', () => {
    take = () => {
      worker.addEventListener('controlling', () => window.location.reload());
      worker.messageSkipWaiting();
    };
    takeIfQuiet();
  });
  const register = () => void worker.register().catch(() => undefined);
  // What is on the screen comes first, and the first scan: all pages are fetched then, which keeps a slow device busy.
  const begin = () => setTimeout(register, FIRST_SCAN_MS);
  if (document.readyState === 'complete') begin();
  else window.addEventListener('load', begin, { once: true });
  setInterval(() => void worker.update().catch(() => undefined), HOUR_MS);
}

/** A screen at which nothing is under way; each `key` is such a moment of its own. */
export function useQuiet(key = ''): void {
  // biome-ignore lint/correctness/useExhaustiveDependencies: another key is another moment
  useEffect(() => {
    quiet += 1;
    takeIfQuiet();
    return () => {
      quiet -= 1;
    };
  }, [key]);
}

/** A moment at which nothing is under way, as when somebody goes to another page of the desk. */
export function quietMoment(): void {
  quiet += 1;
  takeIfQuiet();
  quiet -= 1;
}
