import { expect, test } from 'vitest';
import { sampleProduct } from '../catalog/scanProduct.sample.js';
import type { KnownThing } from '../scans/scan.js';
import {
  openPick,
  type PickNews,
  type PickScan,
  type PickState,
  type PickStop,
  pickDone,
  totesOf,
  type WalkChoices,
} from './pickState.js';
import { samplePickStop } from './pickStop.sample.js';
import { pickScan } from './session.js';

let made = 0;
const scan = (text: string, more: Partial<PickScan> = {}): PickScan => ({
  id: String(++made),
  text,
  at: '2026-11-23T08:00:00.000Z',
  device: 'd',
  count: made,
  ...more,
});
const carrier = (code: string, mark: string, holds: string | null = null): KnownThing => ({
  kind: code.startsWith('TR') ? 'trolley' : 'tote',
  name: code,
  carrier: { id: `id of ${code}`, code, mark, holds },
});
const stop = (id: string, place: string, sku: string, wanted: number, tote: string | null): PickStop =>
  samplePickStop(id, place, sku, wanted, {
    orderNo: tote === 'A2' ? 'OR-2' : 'OR-1',
    tote: tote === null ? null : { id: tote, code: `TO-${tote}`, mark: tote },
    product: sampleProduct(sku),
  });
const two = (choices: Partial<WalkChoices> = {}) =>
  openPick(
    'PL-1',
    [
      stop('s1', 'A-01', 'FRAME', 2, 'A1'),
      stop('s2', 'A-02', 'LIDTOP', 1, 'A2'),
      stop('s3', 'B-01', 'SMOKER', 1, 'A1'),
    ],
    { choices: { bringTotes: false, confirmTote: false, afterOrder: 'go on', ...choices } },
  );
const heap = () =>
  openPick('PL-2', [stop('s1', 'A-01', 'FRAME', 3, null), stop('s2', 'A-02', 'LIDTOP', 1, null)], {
    heap: true,
  });
const play = (from: PickState, ...scans: (string | PickScan)[]) => {
  let step = pickScan(from, typeof scans[0] === 'string' ? scan(scans[0]) : scans[0]!);
  for (const s of scans.slice(1)) step = pickScan(step.state, typeof s === 'string' ? scan(s) : s);
  return step;
};

test('totes are brought one by one, any free one, before anything is taken', () => {
  const start = two({ bringTotes: true });
  expect(play(start, 'A-01').answer).toMatchObject({ tone: 'wrong', next: 'Scan a tote for OR-1.' });
  const asked = play(start, 'TO-77');
  expect([asked.answer.kind, asked.state, asked.effects]).toEqual(['unknown', start, []]);
  // Asked for, and nobody knows it.
  expect(play(start, scan('TO-77', { known: null })).answer.says).toBe('Nothing here is called TO-77.');
  const first = play(start, scan('TO-77', { known: carrier('TO-77', 'B7') }));
  expect(first.answer).toMatchObject({ says: 'B7 is for OR-1.', next: 'Scan a tote for OR-2.' });
  expect(first.effects).toEqual([{ type: 'tote', from: 'A1', to: 'id of TO-77' }]);
  // Both stops of the first order go into it now; the second order keeps the one that it was given.
  expect(first.state.stops.map(s => s.tote!.mark)).toEqual(['B7', 'A2', 'B7']);
  const both = play(first.state, 'TO-A2');
  expect(both.answer).toMatchObject({ says: 'A2 is for OR-2.', next: 'Go to A-01 and scan the place.' });
  const third = play(both.state, scan('TO-78', { known: carrier('TO-78', 'B8') }));
  expect(third.answer.says).toBe('Every order of PL-1 has its tote; B8 is not needed.');
  expect(totesOf(third.state).map(t => t.mark)).toEqual(['B7', 'A2']);
});

test('a tote that holds something is refused, and so is another one after the walk has begun', () => {
  const taken = scan('TO-77', { known: carrier('TO-77', 'B7', 'order OR-9') });
  expect(play(two(), taken).answer.says).toBe('TO-77 has order OR-9; take another.');
  const late = play(two(), 'A-01', 'FRAME', scan('TO-77', { known: carrier('TO-77', 'B7') }));
  expect(late.answer.says).toBe('TO-77 is not a tote of this list.');
});

test('a trolley is scanned onto the list at any time', () => {
  const on = play(two(), scan('TR-2', { known: carrier('TR-2', 'Trolley 2') }));
  expect(on.answer.says).toBe('Trolley 2 carries PL-1.');
  expect(on.effects).toEqual([{ type: 'trolley', placeId: 'id of TR-2' }]);
  // One that carries fewer totes than the list fills is refused; a heap has none, and goes onto any.
  const small = carrier('TR-3', 'Trolley 3');
  small.carrier!.most = 1;
  const little = scan('TR-3', { known: small });
  expect(play(two(), little).answer).toMatchObject({
    says: 'Trolley 3 carries 1 tote, and PL-1 fills 2.',
    next: 'Scan a larger trolley.',
  });
  expect(play(heap(), little).answer.says).toBe('Trolley 3 carries PL-2.');
});

test('where the lead wants it the tote is scanned after each stop, and nothing else is taken before', () => {
  const taken = play(two({ confirmTote: true }), 'A-01', 'FRAME', 'AUK-ALL');
  expect(taken.answer).toMatchObject({ says: 'Right, that is all 2.', next: 'Scan tote A1.' });
  expect(play(taken.state, 'A-02').answer.says).toBe('First say into which tote it went: A1.');
  expect(play(taken.state, 'TO-A2').answer.says).toBe('Wrong tote: this goes into A1.');
  const right = play(taken.state, 'TO-A1');
  expect(right.answer).toMatchObject({ says: 'Right tote, A1.', next: 'Go to A-02 and scan the place.' });
  // The last stop too: the list is complete when its tote is said.
  const last = play(right.state, 'A-02', 'LIDTOP', 'TO-A2', 'B-01', 'SMOKER');
  expect([pickDone(last.state), last.answer.kind]).toEqual([true, 'counted']);
  expect(play(last.state, 'TO-A1').answer.says).toBe('List complete.');
  // Taken back, nothing waits for a tote.
  expect(play(last.state, 'AUK-UNDO').state.pause).toBeNull();
});

test('after a whole order the walk stops, or lets the picker choose, as the lead wants', () => {
  const stopped = play(two({ afterOrder: 'stop' }), 'A-02', 'LIDTOP');
  expect(stopped.answer).toMatchObject({
    says: 'Right, that is it. OR-2 is whole.',
    next: 'Say that you go on.',
  });
  expect(play(stopped.state, 'A-01').answer.tone).toBe('wrong');
  expect(play(stopped.state, 'AUK-YES').answer.next).toBe('Go to B-01 and scan the place.');
  const choosing = play(two({ afterOrder: 'choose' }), 'A-02', 'LIDTOP', 'A-01');
  expect(choosing.answer.says).toBe('Right place, A-01.');
});

test('a heap needs something to lie on, which changes only between two stops', () => {
  expect(play(heap(), 'A-01').answer.next).toBe(
    'Scan a trolley or a tote; all goods of the list go onto it.',
  );
  const on = play(heap(), scan('TR-1', { known: carrier('TR-1', 'T1') }));
  expect(on.answer).toMatchObject({ says: 'T1 carries PL-2.', next: 'Go to A-01 and scan the place.' });
  const begun = play(on.state, 'A-01', 'FRAME');
  expect(begun.answer.next).toBe('2 pieces of frame onto T1.');
  const other = scan('TR-2', { known: carrier('TR-2', 'T2') });
  expect(play(begun.state, other).answer.says).toBe('frame is begun on T1.');
  expect(play(begun.state, 'AUK-ALL', other).answer.says).toBe('T2 carries PL-2.');
  const all = play(begun.state, 'AUK-ALL', 'A-02', 'LIDTOP');
  expect(all.answer).toMatchObject({ says: 'List complete.', next: 'Bring T1 to be sorted.' });
});

test('news of other places puts stops on the walk where they are short, and what was done stays undone in order', () => {
  const missing = play(two(), 'A-01', 'FRAME', 'AUK-SHORT');
  const news: PickNews = { kind: 'stops', stops: [stop('s4', 'A-09', 'FRAME', 1, 'A1')], before: 's2' };
  const told = play(missing.state, scan('', { news }));
  expect(told.answer.says).toBe('1 piece of frame lies at A-09 too; that is on your walk now.');
  expect(told.answer.next).toBe('Go to A-09 and scan the place.');
  expect(told.state.stops.map(s => s.id)).toEqual(['s1', 's4', 's2', 's3']);
  // Whoever stands at a place already finishes it first.
  const begun = play(missing.state, 'A-02');
  const later = play(begun.state, scan('', { news }));
  expect(later.answer.next).toBe('1 piece of lidtop into tote A2.');
  expect(later.state.stops[later.state.at]!.id).toBe('s2');
  // The last thing done is taken back at its own stop, wherever that stands now.
  const back = play(play(begun.state, 'LIDTOP', scan('', { news })).state, 'AUK-UNDO');
  expect(back.effects).toEqual([{ type: 'take', stopId: 's2', units: -1 }]);
});

test('news at the end of a walk takes it up again', () => {
  const done = play(two(), 'A-01', 'FRAME', 'AUK-ALL', 'A-02', 'LIDTOP', 'B-01', 'AUK-SHORT');
  expect(pickDone(done.state)).toBe(true);
  const told = play(
    done.state,
    scan('', { news: { kind: 'stops', stops: [stop('s4', 'C-01', 'SMOKER', 1, 'A1')], before: null } }),
  );
  expect(told.answer.next).toBe('Go to C-01 and scan the place.');
});

test('a whole list is dropped at a staging place, which only the house knows', () => {
  const done = play(two(), 'A-01', 'FRAME', 'AUK-ALL', 'A-02', 'LIDTOP', 'B-01', 'SMOKER');
  expect(done.answer.next).toBe('Bring totes A1, A2 to a staging place or to the benches.');
  expect(play(done.state, 'STAGE-1').answer.kind).toBe('unknown');
  const staging: KnownThing = { kind: 'staging', name: 'STAGE-1' };
  const dropped = play(done.state, scan('stage-1', { known: staging }));
  expect(dropped.answer.says).toBe('PL-1 stands at STAGE-1.');
  expect(dropped.effects).toEqual([{ type: 'drop', code: 'STAGE-1' }]);
  expect(dropped.state.dropped).toBe('STAGE-1');
  expect(play(done.state, scan('STAGE-9', { known: null })).answer.tone).toBe('wrong');
  // Elsewhere it is not dropped, and not before it is whole.
  expect(play(done.state, scan('A-01', { known: { kind: 'place', name: 'A-01' } })).answer.tone).toBe(
    'wrong',
  );
  expect(play(two(), scan('STAGE-1', { known: staging })).answer.tone).toBe('wrong');
});

test('an order that is stopped meanwhile is told at the next stop, and again where the list is dropped', () => {
  const begun = play(two(), 'A-01');
  const told = play(begun.state, scan('', { news: { kind: 'held', orderNo: 'OR-2', stage: 'Cancelled' } }));
  expect(told.answer).toMatchObject({
    says: 'OR-2 is Cancelled now and must not go: it lies in A2.',
    next: '2 pieces of frame into tote A1.',
  });
  const done = play(told.state, 'FRAME', 'AUK-ALL', 'A-02', 'LIDTOP', 'B-01', 'SMOKER');
  const dropped = play(done.state, scan('STAGE-1', { known: { kind: 'staging', name: 'STAGE-1' } }));
  expect(dropped.answer.says).toBe('PL-1 stands at STAGE-1. Set aside: OR-2.');
});

test('what is taken for the other at its place is told to the lead, by name; elsewhere it is only refused', () => {
  const known: KnownThing = { kind: 'product', name: 'Lid, flat', sku: 'LID-FL' };
  expect(play(two(), 'A-01', scan('LID-FL', { known })).effects).toEqual([
    { type: 'mix-up', stopId: 's1', sku: 'LID-FL' },
  ]);
  expect(play(two(), 'A-01', 'SMOKER').effects).toEqual([{ type: 'mix-up', stopId: 's1', sku: 'SMOKER' }]);
  expect(play(two(), 'A-01', 'NOBODY-KNOWS').effects).toEqual([]);
});

test('what was missing and is found after all is not fetched elsewhere any more', () => {
  const missing = play(two(), 'A-01', 'AUK-SHORT');
  const more = { ...stop('s4', 'A-09', 'FRAME', 2, 'A1'), instead: 's1' };
  const told = play(missing.state, scan('', { news: { kind: 'stops', stops: [more], before: 's2' } }));
  expect(told.state.stops.map(s => s.wanted)).toEqual([2, 2, 1, 1]);
  const undone = play(told.state, 'AUK-UNDO');
  expect(undone.effects).toEqual([
    { type: 'give up', stopId: 's4' },
    { type: 'missing', stopId: 's1', units: -2 },
  ]);
  expect(undone.state.stops.map(s => [s.id, s.wanted])).toEqual([
    ['s1', 2],
    ['s4', 0],
    ['s2', 1],
    ['s3', 1],
  ]);
  // What was taken there meanwhile is taken back first.
  const taken = play(told.state, 'A-09', 'FRAME', 'AUK-UNDO');
  expect(taken.effects).toEqual([{ type: 'take', stopId: 's4', units: -1 }]);
});

test('where a finished list goes names what holds goods, and nothing where nothing was found', () => {
  const missed = play(two(), 'A-01', 'AUK-SHORT', 'A-02', 'AUK-SHORT', 'B-01', 'AUK-SHORT');
  expect(missed.answer.next).toBe('Nothing was taken, so there is nothing to bring.');
  const some = play(two(), 'A-01', 'AUK-SHORT', 'A-02', 'LIDTOP', 'B-01', 'AUK-SHORT');
  expect(some.answer.next).toMatch(/^Bring tote A\d to a staging place or to the benches\.$/);
  const many = openPick(
    'PL-2',
    [1, 2, 3, 4, 5].map(i => stop(`s${i}`, 'A-01', 'FRAME', 1, `B${i}`)),
  );
  const all = play(many, 'A-01', 'FRAME', 'FRAME', 'FRAME', 'FRAME', 'FRAME');
  expect(all.answer.next).toBe('Bring the 5 totes to a staging place or to the benches.');
});
