import type { Person, ScanIn } from '@auk/contract';
import type { Answer } from '@auk/core';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { Refused, Unreached } from '../api.js';
import { Outbox, type Outcome } from './outbox.js';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const person = (id: string) => ({ id, name: `Person ${id}` }) as Person;
let n = 0;
const scanOf = (text: string): ScanIn => ({
  id: `scan-${++n}`,
  text,
  at: '2026-11-25T08:00:00.000Z',
  device: 'd',
  count: n,
});
const right = (text: string): Answer => ({ kind: 'counted', tone: 'right', says: text, next: '' });
const refusal = (status: number, retry: 'now' | 'later' | 'never') =>
  new Refused({ type: 'about:blank', title: 'x', status, detail: `no (${status})`, cure: 'do', retry });

/** An outbox on a server that does what it is told, in turn, and then all it is asked. */
async function make(...says: (Error | 'judge')[]) {
  const sent: string[] = [];
  const outcomes: Outcome[] = [];
  const channel = { postMessage: () => {}, onmessage: null } as unknown as BroadcastChannel;
  const outbox = new Outbox(async (path, scan) => {
    sent.push(`${path} ${scan.text}${scan.maker ? ` by ${scan.maker}` : ''}`);
    const next = says.shift() ?? 'judge';
    if (next !== 'judge') throw next;
    return { answer: right(scan.text), state: { after: scan.text } };
  }, channel);
  outbox.hearOutcomes(o => outcomes.push(o));
  await outbox.ready;
  const settle = (ms = 0) => vi.advanceTimersByTimeAsync(ms);
  await settle();
  return { outbox, sent, outcomes, settle };
}

test('scans are sent in the order in which they were made, and each is gone when it is judged', async () => {
  const { outbox, sent, outcomes, settle } = await make();
  outbox.signedIn(person('A'));
  for (const [lane, text] of [
    ['one', 'a'],
    ['two', 'b'],
    ['one', 'c'],
  ] as const)
    outbox.add(lane, `to/${lane}`, lane, scanOf(text));
  expect(outbox.look().pending).toHaveLength(3);
  await settle();
  expect(sent).toEqual(['to/one a by A', 'to/two b by A', 'to/one c by A']);
  expect(outcomes.map(o => [o.lane, o.answer.says, o.judged])).toEqual([
    ['one', 'a', true],
    ['two', 'b', true],
    ['one', 'c', true],
  ]);
  expect(outbox.look()).toEqual({ pending: [], trouble: null, signIn: false, full: true });
});

test('what does not reach the server stays, and is sent again after waits that grow', async () => {
  const { outbox, sent, settle } = await make(new Unreached(), new Unreached(), new Unreached());
  outbox.add('one', 'to', 'one', scanOf('a'));
  await settle();
  expect(outbox.look()).toMatchObject({ trouble: 'no network', signIn: false, full: true });
  expect(sent).toHaveLength(1);
  await settle(500);
  expect(sent).toHaveLength(2);
  await settle(499);
  // The second wait is at least half a second and at most one.
  await settle(501);
  expect(sent).toHaveLength(3);
  expect(outbox.of('one')).toHaveLength(1);
  await settle(2_000);
  expect(sent).toHaveLength(4);
  expect(outbox.look()).toEqual({ pending: [], trouble: null, signIn: false, full: true });
});

test('a network that is back is tried at once', async () => {
  const { outbox, sent, settle } = await make(new Unreached(), new Unreached(), new Unreached());
  outbox.add('one', 'to', 'one', scanOf('a'));
  // However the waits are drawn, the third answer is not there yet.
  await settle(1_000);
  const before = sent.length;
  outbox.hurry();
  await settle();
  expect(sent.length).toBe(before + 1);
});

test('a session that is over asks to sign in, and the scans go on after it', async () => {
  const { outbox, sent, settle } = await make(refusal(401, 'later'));
  outbox.signedIn(person('A'));
  outbox.add('one', 'to', 'one', scanOf('a'));
  outbox.add('one', 'to', 'one', scanOf('b'));
  await settle();
  expect(outbox.look()).toMatchObject({ signIn: true, trouble: 'signed out' });
  expect(outbox.of('one').map(p => p.scan.text)).toEqual(['a', 'b']);
  outbox.signedIn(person('B'));
  await settle();
  // They stay in the name of who made them.
  expect(sent.slice(1)).toEqual(['to a by A', 'to b by A']);
  expect(outbox.look()).toEqual({ pending: [], trouble: null, signIn: false, full: true });
});

test('a lock, a full server and too many questions are no refusals: the scan stays', async () => {
  for (const [status, retry] of [
    [409, 'now'],
    [429, 'later'],
    [503, 'later'],
  ] as const) {
    const { outbox, outcomes, settle } = await make(refusal(status, retry));
    outbox.add('one', 'to', 'one', scanOf('a'));
    await settle();
    expect(outbox.of('one'), String(status)).toHaveLength(1);
    await settle(1_000);
    expect(outcomes.map(o => o.answer.says)).toEqual(['a']);
  }
});

test('a refusal is told in its words, and the next goes on', async () => {
  const { outbox, outcomes, settle } = await make(refusal(409, 'never'));
  outbox.add('one', 'to', 'one', scanOf('a'));
  outbox.add('one', 'to', 'one', scanOf('b'));
  await settle();
  expect(outcomes).toMatchObject([
    { judged: false, answer: { kind: 'refused', tone: 'wrong', says: 'no (409)', next: 'do' } },
    { judged: true, answer: { says: 'b' } },
  ]);
  expect(outbox.look().pending).toEqual([]);
});

test('a scan that the server fails at again and again is set aside with its reason, and those behind it go on', async () => {
  const { outbox, sent, outcomes, settle } = await make(
    ...Array.from({ length: 6 }, () => refusal(500, 'later')),
  );
  outbox.add('one', 'to', 'one', scanOf('bad'));
  outbox.add('one', 'to', 'one', scanOf('good'));
  await settle(120_000);
  expect(sent.filter(s => s === 'to bad')).toHaveLength(6);
  expect(outcomes.map(o => o.answer.says)).toEqual(['good']);
  const [aside] = outbox.look().pending;
  expect(aside).toMatchObject({ aside: 'no (500)', scan: { text: 'bad' } });
  // It is not of the lane any more, so that the screen does not show it as counted.
  expect(outbox.of('one')).toEqual([]);
  outbox.again(aside!.id);
  await settle();
  expect(outcomes.map(o => o.answer.says)).toEqual(['good', 'bad']);
});

test('a server that is away for longer sets no scan aside: it goes on by itself when the server is back', async () => {
  for (const status of [502, 503, 504]) {
    const { outbox, sent, outcomes, settle } = await make(
      ...Array.from({ length: 12 }, () => refusal(status, 'later')),
    );
    outbox.add('one', 'to', 'one', scanOf('a'));
    outbox.add('one', 'to', 'one', scanOf('b'));
    await settle(60_000);
    expect(outbox.look()).toMatchObject({ trouble: 'the server has trouble' });
    expect(outbox.of('one').map(p => p.aside)).toEqual([null, null]);
    expect(outcomes).toEqual([]);
    await settle(300_000);
    expect(sent.slice(12)).toEqual(['to a', 'to b']);
    expect(outcomes.map(o => o.answer.says)).toEqual(['a', 'b']);
  }
});

test('what the one who is signed in may not do waits for who made it, and holds up no other list', async () => {
  const { outbox, sent, settle } = await make(refusal(401, 'later'), refusal(403, 'never'));
  outbox.signedIn(person('picker'));
  outbox.add('list', 'pick', 'PL-1', scanOf('a'));
  await settle();
  outbox.signedIn(person('office'));
  await settle();
  outbox.add('order', 'draft', 'a typed order', scanOf('b'));
  await settle();
  expect(sent.at(-1)).toBe('draft b by office');
  expect(outbox.of('list')).toHaveLength(1);
  outbox.signedIn(person('picker'));
  await settle();
  expect(sent.at(-1)).toBe('pick a by picker');
  expect(outbox.look().pending).toEqual([]);
});

test('who may not do what he scanned himself is told', async () => {
  const { outbox, outcomes, settle } = await make(refusal(403, 'never'));
  outbox.signedIn(person('A'));
  outbox.add('one', 'to', 'one', scanOf('a'));
  await settle();
  expect(outcomes).toMatchObject([{ judged: false, answer: { says: 'no (403)' } }]);
});

test('what an older Auk kept for one screen is taken over, and finds its way', async () => {
  const kept = new Map([['auk.scans.S1', JSON.stringify([scanOf('old')])]]);
  vi.stubGlobal('localStorage', {
    getItem: (k: string) => kept.get(k) ?? null,
    removeItem: (k: string) => void kept.delete(k),
    ...Object.fromEntries(kept),
  });
  const { outbox, sent, settle } = await make(refusal(404, 'never'));
  await settle();
  expect(sent).toEqual(['picking/sessions/S1/scans old', 'packing/sessions/S1/scans old']);
  expect(outbox.look().pending).toEqual([]);
  expect(kept.size).toBe(0);
  vi.unstubAllGlobals();
});

test('what an older Auk kept and cannot be read stays where it is, and holds up nothing', async () => {
  const kept = new Map([
    ['auk.scans.S1', '[{"id":'],
    ['auk.scans.S2', '{}'],
    ['auk.scans.S3', JSON.stringify([scanOf('old')])],
  ]);
  vi.stubGlobal('localStorage', {
    getItem: (k: string) => kept.get(k) ?? null,
    removeItem: (k: string) => void kept.delete(k),
    ...Object.fromEntries(kept),
  });
  const { outbox, sent, settle } = await make();
  outbox.add('one', 'to', 'one', scanOf('new'));
  await settle();
  expect(sent).toEqual(['picking/sessions/S3/scans old', 'to new']);
  expect([...kept.keys()]).toEqual(['auk.scans.S1', 'auk.scans.S2']);
  vi.unstubAllGlobals();
});

test('where a lane stands is held before its scan is forgotten: a reload at any moment finds one or the other', async () => {
  const channel = { postMessage: () => {}, onmessage: null } as unknown as BroadcastChannel;
  const seen: [state: unknown, pending: number][] = [];
  const outbox: Outbox = new Outbox(
    async (_, scan) => ({ answer: right(scan.text), state: { after: scan.text } }),
    channel,
    async (lane, state) => {
      seen.push([`${lane} ${JSON.stringify(state)}`, outbox.of(lane).length]);
    },
  );
  await outbox.ready;
  outbox.signedIn(person('A'));
  outbox.add('one', 'to/one', 'one', scanOf('a'));
  await vi.advanceTimersByTimeAsync(0);
  expect(seen).toEqual([['one {"after":"a"}', 1]]);
  expect(outbox.look().pending).toEqual([]);
});

test('a device that keeps nothing says so: scans live as long as the page does', async () => {
  const { outbox } = await make();
  expect(outbox.look().full).toBe(true);
});
