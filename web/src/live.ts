import type { LiveMessage, LiveTopic } from '@auk/contract';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { changed } from './asked.js';

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
      void changed(client, ...topics);
      topics.clear();
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

/** Calls `then` when one thing of a topic changed; also after messages were missed. */
export function useHeard(topic: LiveTopic, ref: string, then: () => void): void {
  const newest = useRef(then);
  newest.current = then;
  useEffect(() => {
    const tabs = new BroadcastChannel(CHANNEL);
    tabs.onmessage = ({ data }) => {
      const heard = data as LiveMessage;
      if (heard.topic === 'all' || (heard.topic === topic && heard.ref === ref)) newest.current();
    };
    return () => tabs.close();
  }, [topic, ref]);
}

const FIRST_WAIT_MS = 500;
const LONGEST_WAIT_MS = 30_000;
/** Everything is asked anew: nobody can tell what was missed. */
const ALL: LiveMessage = { id: 0, topic: 'all', ref: '' };

/** Waits for its turn to be the tab that holds the connection, then holds it until the signal. Where turns are not to be had, each tab holds its own. */
async function holdConnection(signal: AbortSignal, heard: (message: LiveMessage) => void): Promise<void> {
  if (!navigator.locks) return hold(signal, heard);
  try {
    if (!signal.aborted) await navigator.locks.request(CHANNEL, { signal }, () => hold(signal, heard));
  } catch {
    // Aborted while waiting for the turn: another tab holds the connection.
  }
}

/** Listens, and after any failure listens again from the last message on, after waits that grow. */
async function hold(signal: AbortSignal, heard: (message: LiveMessage) => void): Promise<void> {
  let last: number | null = null;
  let lost = 0;
  while (!signal.aborted) {
    await listen(last, signal, {
      opened: () => {
        if (lost > 0 && last === null) heard(ALL);
        lost = 0;
      },
      heard: message => {
        if (message.id > 0) last = message.id;
        heard(message);
      },
    });
    lost++;
    await pause(
      Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (lost - 1)) * (0.5 + Math.random() / 2),
      signal,
    );
  }
}

/** One connection, until it fails or the signal comes. */
function listen(
  after: number | null,
  signal: AbortSignal,
  on: { opened: () => void; heard: (message: LiveMessage) => void },
): Promise<void> {
  return new Promise(resolve => {
    const source = new EventSource(`/api/v1/live${after === null ? '' : `?after=${after}`}`);
    const end = () => {
      source.close();
      signal.removeEventListener('abort', end);
      resolve();
    };
    source.onopen = on.opened;
    source.onmessage = event => on.heard(JSON.parse(event.data) as LiveMessage);
    source.onerror = end;
    signal.addEventListener('abort', end);
  });
}

const pause = (ms: number, signal: AbortSignal): Promise<void> =>
  new Promise(resolve => {
    const timer = setTimeout(resolve, ms);
    signal.addEventListener('abort', () => {
      clearTimeout(timer);
      resolve();
    });
  });
