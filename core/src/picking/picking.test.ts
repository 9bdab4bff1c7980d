import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { Scan } from '../scans/scan.js';
import { evenLayout } from './layout.js';
import { walkStops } from './listWalk.js';
import { openPick, type PickState, pickDone, stopOpen } from './pickState.js';
import { samplePickStop } from './pickStop.sample.js';
import { pickScan } from './session.js';
import { walksOf } from './walks.js';

let count = 0;
const scan = (text: string, known?: Scan['known']): Scan => ({
  id: String(++count),
  text,
  at: '2026-11-23T08:00:00.000Z',
  device: 'd',
  count,
  ...(known && { known }),
});
const open = () =>
  openPick('PL-1', [
    samplePickStop('s1', 'A-01-1', 'FRAME', 10),
    samplePickStop('s2', 'A-01-1', 'LIDTOP', 1),
    samplePickStop('s3', 'B-02-2', 'SMOKER', 2),
  ]);
const play = (texts: string[], from: PickState = open()) => {
  let step: ReturnType<typeof pickScan> | null = null;
  for (const text of texts) step = pickScan(step?.state ?? from, scan(text));
  return step!;
};

test('place, product, all the rest, and on to the next stop', () => {
  expect(play(['FRAME']).answer).toMatchObject({
    tone: 'wrong',
    says: 'Scan the place first, so that the stock is right.',
  });
  const one = play(['A-01-1', 'FRAME']);
  expect(one.answer.says).toBe('Right. 9 more.');
  expect(one.effects).toEqual([{ type: 'take', stopId: 's1', units: 1 }]);
  const all = pickScan(one.state, scan('AUK-ALL'));
  expect(all.effects).toEqual([{ type: 'take', stopId: 's1', units: 9 }]);
  expect(all.state.at).toBe(1);
  expect(all.state.placeSeen).toBe('A-01-1');
});

test('the last piece of a stop is told by how many were wanted, one as one', () => {
  const all = play(['A-01-1', 'FRAME', 'AUK-ALL']);
  expect(all.answer).toMatchObject({ tone: 'complete', says: 'Right, that is all 10.' });
  const one = pickScan(all.state, scan('LIDTOP'));
  expect(one.answer).toMatchObject({ tone: 'complete', says: 'Right, that is it.' });
  expect(one.state.at).toBe(2);
});

test('wrong product, wrong place, too many, wrong tote: refused with what and why', () => {
  expect(pickScan(play(['A-01-1']).state, scan('BOOK', { kind: 'product', name: 'Book' })).answer.says).toBe(
    'Wrong product: this is Book.',
  );
  expect(play(['C-09-1']).answer.says).toBe('Nothing on this list has the code C-09-1.');
  expect(play(['A-01-1', 'CASE-FRAME']).answer.says).toBe(
    'That code counts 12. Too many: only 10 are wanted here.',
  );
  expect(play(['A-01-1', 'FRAME', '10']).answer.says).toBe('Too many: only 9 are wanted here.');
  expect(play(['A-01-1', 'FRAME', 'TO-009']).answer.says).toBe('TO-009 is not a tote of this list.');
  expect(play(['A-01-1', '5']).answer.tone).toBe('wrong');
});

test('a product that is scanned before any place leads to the stop that wants it', () => {
  const found = play(['SMOKER']);
  expect(found.answer).toMatchObject({
    kind: 'moved',
    says: 'smoker is wanted at B-02-2.',
    next: 'Go to B-02-2 and scan the place.',
  });
  expect([found.state.at, found.effects]).toEqual([2, []]);
  expect(pickScan(pickScan(found.state, scan('B-02-2')).state, scan('SMOKER')).answer.says).toBe(
    'Right. 1 more.',
  );
  // At a place it is the wrong product, as before; and what is complete leads nowhere.
  expect(play(['A-01-1', 'SMOKER']).answer.tone).toBe('wrong');
  const complete = play(['B-02-2', 'SMOKER', 'AUK-ALL']).state;
  expect(pickScan({ ...complete, placeSeen: null }, scan('SMOKER')).answer.says).toBe(
    'smoker is complete; put this one back.',
  );
});

test('several by number, another product of the same place, short, undo', () => {
  expect(play(['A-01-1', 'FRAME', '4']).state.stops[0]!.taken).toBe(5);
  expect(play(['A-01-1', 'LIDTOP']).state.stops[1]!.taken).toBe(1);
  const short = play(['A-01-1', 'FRAME', 'AUK-SHORT']);
  expect(short.effects).toEqual([{ type: 'missing', stopId: 's1', units: 9 }]);
  const back = pickScan(short.state, scan('AUK-UNDO'));
  expect(back.effects).toEqual([{ type: 'missing', stopId: 's1', units: -9 }]);
  expect(back.state.stops[0]).toMatchObject({ taken: 1, missing: 0 });
  expect(play(['AUK-UNDO']).answer.tone).toBe('wrong');
});

test('the list ends once, and nothing more is taken', () => {
  const end = play(['A-01-1', 'FRAME', 'AUK-ALL', 'LIDTOP', 'B-02-2', 'SMOKER', 'SMOKER']);
  expect(end.answer.kind).toBe('complete');
  expect(pickDone(end.state)).toBe(true);
  expect(pickScan(end.state, scan('SMOKER')).answer.kind).toBe('refused');
});

test('whatever is scanned: counts stay within what is wanted, effects add up to them, refusals change nothing', () => {
  const text = fc.constantFrom(
    'A-01-1',
    'B-02-2',
    'FRAME',
    'LIDTOP',
    'SMOKER',
    'CASE-FRAME',
    '3',
    '9',
    '0',
    'AUK-ALL',
    'AUK-SHORT',
    'AUK-UNDO',
    'AUK-SKIP',
    'TO-001',
    'nonsense',
    '',
  );
  fc.assert(
    fc.property(fc.array(text, { maxLength: 40 }), texts => {
      let state = open();
      const sum = new Map<string, number>();
      for (const t of texts) {
        const step = pickScan(state, scan(t));
        if (step.answer.kind === 'refused' && step.state !== state) return false;
        for (const e of step.effects)
          if ('units' in e) sum.set(e.type + e.stopId, (sum.get(e.type + e.stopId) ?? 0) + e.units);
        state = step.state;
      }
      return state.stops.every(
        s =>
          s.taken >= 0 &&
          s.missing >= 0 &&
          stopOpen(s) >= 0 &&
          (sum.get(`take${s.id}`) ?? 0) === s.taken &&
          (sum.get(`missing${s.id}`) ?? 0) === s.missing,
      );
    }),
    { numRuns: 400 },
  );
});

test('stops without coordinates are walked last, by code; the distance is that of the others', () => {
  const walks = walksOf(evenLayout({ aisles: 3, length: 100_000, pitch: 30_000 }));
  const stop = (code: string, aisle: number | null) => ({
    code,
    aisle,
    along: aisle === null ? null : 10_000,
  });
  const all = [stop('UPPER 7', null), stop('C', 2), stop('12/3', null), stop('A', 0)];
  const { stops, distance } = walkStops(all, walks);
  expect(stops.map(s => s.code)).toEqual(['A', 'C', '12/3', 'UPPER 7']);
  // Up to A and back, along the front to C, up and back, home: 20 + 60 + 20 + 60 thousand.
  expect(distance).toBe(160_000);
  expect(walkStops([stop('Z', null)], walks)).toMatchObject({ distance: 0 });
});
