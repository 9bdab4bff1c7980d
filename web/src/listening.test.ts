import type { LiveMessage } from '@auk/contract';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { holdConnection } from './listening.js';

/** A stream of the server as a browser has it, told by the test what comes. */
class Stream {
  static all: Stream[] = [];
  onopen: (() => void) | null = null;
  onmessage: ((event: { data: string }) => void) | null = null;
  onerror: (() => void) | null = null;
  closed = false;
  constructor(readonly address: string) {
    Stream.all.push(this);
  }
  close() {
    this.closed = true;
  }
  say(message: LiveMessage) {
    this.onmessage!({ data: JSON.stringify(message) });
  }
  static get now(): Stream {
    return Stream.all.at(-1)!;
  }
}

const message = (id: number, ref: string): LiveMessage => ({ id, topic: 'orders', ref });
const settle = (ms = 0) => vi.advanceTimersByTimeAsync(ms);

beforeEach(() => {
  vi.useFakeTimers();
  Stream.all = [];
  vi.stubGlobal('EventSource', Stream);
  vi.stubGlobal('navigator', {});
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

function begin() {
  const gone = new AbortController();
  const heard: string[] = [];
  const held = holdConnection(gone.signal, m => heard.push(m.topic === 'all' ? 'all' : m.ref));
  return { gone, heard, held };
}

test('after a failure it listens again from the last message on, so that nothing is missed', async () => {
  const { heard } = begin();
  await settle();
  expect(Stream.now.address).toBe('/api/v1/live');
  Stream.now.onopen!();
  Stream.now.say(message(7, 'one'));
  Stream.now.say(message(8, 'two'));
  Stream.now.onerror!();
  expect(Stream.now.closed).toBe(true);
  await settle(500);
  expect(Stream.all).toHaveLength(2);
  expect(Stream.now.address).toBe('/api/v1/live?after=8');
  Stream.now.onopen!();
  Stream.now.say(message(9, 'three'));
  expect(heard).toEqual(['one', 'two', 'three']);
});

test('where it never knew a position, all is asked anew once it is back', async () => {
  const { heard } = begin();
  await settle();
  Stream.now.onerror!();
  await settle(500);
  Stream.now.onopen!();
  expect(heard).toEqual(['all']);
  // A connection that opens at the first try has missed nothing.
  Stream.now.say(message(0, 'without a position'));
  Stream.now.onerror!();
  await settle(500);
  Stream.now.onopen!();
  expect(heard).toEqual(['all', 'without a position', 'all']);
});

test('a server that stays away is asked less and less often, and at once often again when it was there', async () => {
  begin();
  const tries: number[] = [];
  for (let i = 0; i < 12; i++) {
    await settle();
    Stream.now.onerror!();
    const before = Stream.all.length;
    let waited = 0;
    while (Stream.all.length === before) {
      await settle(250);
      waited += 250;
    }
    tries.push(waited);
  }
  expect(tries[0]).toBeLessThanOrEqual(500);
  expect(tries[3]).toBeGreaterThanOrEqual(2_000);
  // Never longer than half a minute, and never all devices of a house at one moment.
  for (const wait of tries.slice(7)) {
    expect(wait).toBeGreaterThanOrEqual(15_000);
    expect(wait).toBeLessThanOrEqual(30_250);
  }
  Stream.now.onopen!();
  Stream.now.onerror!();
  const before = Stream.all.length;
  await settle(500);
  expect(Stream.all.length).toBe(before + 1);
});

test('who leaves the house closes the connection, also while it waits to try again', async () => {
  const first = begin();
  await settle();
  first.gone.abort();
  await first.held;
  expect(Stream.now.closed).toBe(true);
  const second = begin();
  await settle();
  Stream.now.onerror!();
  await settle();
  second.gone.abort();
  await second.held;
  const opened = Stream.all.length;
  await settle(60_000);
  expect(Stream.all).toHaveLength(opened);
});

test('one tab holds the connection; another takes over when that is closed', async () => {
  const queue: (() => void)[] = [];
  let taken = false;
  vi.stubGlobal('navigator', {
    locks: {
      request: async (_: string, { signal }: { signal: AbortSignal }, work: () => Promise<void>) => {
        if (taken)
          await new Promise<void>((resolve, reject) => {
            queue.push(resolve);
            signal.addEventListener('abort', () => reject(signal.reason));
          });
        taken = true;
        await work();
        taken = false;
        queue.shift()?.();
      },
    },
  });
  const [one, two, three] = [begin(), begin(), begin()];
  await settle();
  expect(Stream.all).toHaveLength(1);
  // One that is closed while it waits for its turn never opens one.
  two.gone.abort();
  await two.held;
  queue.shift();
  one.gone.abort();
  await one.held;
  await settle();
  expect(Stream.all).toHaveLength(2);
  Stream.now.onopen!();
  Stream.now.say(message(3, 'news'));
  expect(three.heard).toEqual(['news']);
});
