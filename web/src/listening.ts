import type { LiveMessage } from '@auk/contract';

/** What is heard goes to all tabs of the browser by this channel; of its name is the turn to hold the connection too. */
export const CHANNEL = 'auk-live';
const FIRST_WAIT_MS = 500;
const LONGEST_WAIT_MS = 30_000;
/** Everything is asked anew: nobody can tell what was missed. */
const ALL: LiveMessage = { id: 0, topic: 'all', ref: '' };

/** Waits for its turn to be the tab that holds the connection, then holds it until the signal. Where turns are not to be had, each tab holds its own. */
export async function holdConnection(
  signal: AbortSignal,
  heard: (message: LiveMessage) => void,
): Promise<void> {
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
    if (signal.aborted) return resolve();
    const timer = setTimeout(resolve, ms);
    signal.addEventListener('abort', () => {
      clearTimeout(timer);
      resolve();
    });
  });
