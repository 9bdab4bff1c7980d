import type { LiveMessage, LiveTopic } from '@auk/contract';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';

/** Which questions are asked again when a topic changes. */
const ASKED_AGAIN: Record<LiveTopic, string[]> = {
  orders: ['board', 'strip', 'orders', 'order', 'lists'],
  lists: ['lists', 'list', 'strip', 'board'],
  parcels: ['parcels', 'strip', 'board', 'order'],
  departures: ['board', 'strip', 'handover'],
  stock: ['products', 'product', 'listings', 'stock', 'kits', 'kit', 'ledger', 'place'],
  catalog: ['products', 'product', 'listings', 'order', 'kits', 'kit'],
  channels: ['channels', 'listings'],
  builds: ['builds', 'build', 'kits'],
  purchases: ['receiving', 'receive'],
  people: ['people', 'me'],
  all: [],
};
/** Changes are gathered for this long, so that a busy floor does not make the Board ask for every scan. */
const GATHER_MS = 700;
const CHANNEL = 'auk-live';

/** Keeps every open screen fresh: one tab of the browser holds the connection and tells the others. */
export function useLive(signedIn: boolean): void {
  const client = useQueryClient();
  useEffect(() => {
    if (!signedIn) return;
    const topics = new Set<LiveTopic>();
    let timer: ReturnType<typeof setTimeout> | null = null;
    const flush = () => {
      timer = null;
      const anew = topics.has('all');
      const keys = new Set([...topics].flatMap(t => ASKED_AGAIN[t] ?? []));
      topics.clear();
      if (anew) {
        void client.invalidateQueries();
        return;
      }
      for (const key of keys) void client.invalidateQueries({ queryKey: [key] });
    };
    const heard = (message: LiveMessage) => {
      topics.add(message.topic);
      timer ??= setTimeout(flush, GATHER_MS);
    };
    const tabs = new BroadcastChannel(CHANNEL);
    tabs.onmessage = event => heard(event.data as LiveMessage);
    const gone = new AbortController();
    void holdConnection(gone.signal, message => {
      tabs.postMessage(message);
      heard(message);
    });
    return () => {
      gone.abort();
      tabs.close();
      if (timer) clearTimeout(timer);
    };
  }, [client, signedIn]);
}

/** Waits for its turn to be the tab that holds the connection, then holds it until the signal. */
async function holdConnection(signal: AbortSignal, heard: (message: LiveMessage) => void): Promise<void> {
  const hold = () =>
    new Promise<void>(resolve => {
      const source = new EventSource('/api/v1/live');
      source.onmessage = event => heard(JSON.parse(event.data) as LiveMessage);
      signal.addEventListener('abort', () => {
        source.close();
        resolve();
      });
    });
  try {
    if (!signal.aborted) await navigator.locks.request(CHANNEL, { signal }, hold);
  } catch {
    // Aborted while waiting for the turn: another tab holds the connection.
  }
}
