import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { Scan } from '../scans/scan.js';
import { sampleReceiveLine } from './receiveLine.sample.js';
import { openReceive, type ReceiveEffect, type ReceiveState } from './receiveState.js';
import { receiveScan } from './session.js';

let n = 0;
const scan = (text: string, more: Partial<Scan> = {}): Scan => ({
  id: String(++n),
  text,
  at: '2026-11-23T08:00:00.000Z',
  device: 'dock',
  count: n,
  ...more,
});

/** Runs scans and gives the last answer, the state, and all effects. */
function run(state: ReceiveState, texts: (string | Scan)[]) {
  const effects: ReceiveEffect[] = [];
  let says = '';
  let kind = '';
  for (const t of texts) {
    const step = receiveScan(state, typeof t === 'string' ? scan(t) : t);
    state = step.state;
    effects.push(...step.effects);
    says = step.answer.says;
    kind = step.answer.kind;
  }
  return { state, effects, says, kind };
}
const units = (effects: ReceiveEffect[], type: string) =>
  effects.filter(e => e.type === type).reduce((sum, e) => sum + e.units, 0);

test('five scans are five of eleven, the rest awaited; a case counts its pack; surplus and strangers are refused', () => {
  const open = openReceive('PO-7', 'Nestle Mill', [
    sampleReceiveLine('JAR', 11),
    sampleReceiveLine('LID', 30),
  ]);
  const five = run(open, ['C-JAR', 'C-JAR', 'C-JAR', 'C-JAR', 'C-JAR']);
  expect(five.says).toBe('1 × jar: 5 of 11.');
  expect(five.state.lines[0]!.received).toBe(5);
  expect(units(five.effects, 'receive')).toBe(5);
  expect(run(five.state, ['CASE-JAR']).says).toBe('That would be 12. Only 6 of jar are awaited.');
  expect(run(five.state, ['CASE-LID']).says).toBe('12 × lid: 12 of 30.');
  const all = run(five.state, ['AUK-ALL']);
  expect(all.says).toBe('6 × jar: all 11 are in.');
  expect(run(all.state, ['C-JAR']).says).toMatch(/All 11 of jar on PO-7 are in already: this is surplus/);
  const stranger = run(open, [scan('C-SMK', { known: { kind: 'product', name: 'Smoker' } })]);
  expect([stranger.kind, stranger.says]).toEqual(['refused', 'This is Smoker; PO-7 does not have it.']);
});

test('put away by scanning the place; undo takes back the last act first', () => {
  const open = openReceive('PO-7', 'x', [sampleReceiveLine('JAR', 11)]);
  const there = (code: string) => scan(code, { known: { kind: 'place', name: code } });
  const away = run(open, ['C-JAR', '4', there('B-07-2')]);
  expect(away.says).toBe('5 × jar put away in B-07-2.');
  expect(away.effects.at(-1)).toEqual({ type: 'put', lineId: 'JAR', units: 5, lot: null, place: 'B-07-2' });
  expect(run(away.state, [there('B-07-2')]).says).toMatch(/Nothing is in hand/);
  // The proposed place is known to the device, whatever its code looks like; another is known when the judge says so.
  const shelf = openReceive('PO-7', 'x', [
    sampleReceiveLine('JAR', 11, { putAway: { code: 'ROW 7/UPPER', why: 'it is near' } }),
  ]);
  expect(run(shelf, ['C-JAR', 'row 7/upper']).says).toBe('1 × jar put away in ROW 7/UPPER.');
  expect(run(shelf, ['C-JAR', 'ROW 8']).kind).toBe('refused');
  const back = run(away.state, ['AUK-UNDO', 'AUK-UNDO']);
  expect(back.effects).toEqual([
    { type: 'put', lineId: 'JAR', units: -5, lot: null, place: 'B-07-2' },
    { type: 'receive', lineId: 'JAR', units: -4, lot: null, expiry: null },
  ]);
  expect(back.state.lines[0]!.received).toBe(1);
});

test('lot and expiry are asked once a lot, read from a GS1 code, and an expired lot is refused', () => {
  const open = openReceive('PO-8', 'x', [
    sampleReceiveLine('MITE', 20, {
      lotWanted: true,
      expiryWanted: true,
      product: { ...sampleReceiveLine('MITE', 1).product, codes: [{ code: '09506000134352', units: 1 }] },
    }),
  ]);
  const asked = run(open, ['9506000134352']);
  expect([asked.kind, asked.says, asked.effects]).toEqual(['asked', 'mite: Which lot?', []]);
  expect(run(asked.state, ['9506000134352']).says).toMatch(/still waits for its lot/);
  expect(run(asked.state, ['x'.repeat(21)]).says).toBe('A lot has at most 20 characters; this has 21.');
  const day = run(asked.state, ['M-1', '31/02/2027']);
  expect(day.kind).toBe('refused');
  const one = run(asked.state, ['M-1', '2027-03-31', '9506000134352', '3']);
  expect(one.state.lines[0]!.received).toBe(5);
  expect(one.effects.every(e => e.type === 'receive' && e.lot === 'M-1' && e.expiry === '2027-03-31')).toBe(
    true,
  );
  const gs1 = run(one.state, ['(01)09506000134352(10)M-2(17)270630(30)4']);
  expect(gs1.effects).toEqual([
    { type: 'receive', lineId: 'MITE', units: 4, lot: 'M-2', expiry: '2027-06-30' },
  ]);
  const old = run(one.state, ['(01)09506000134352(10)M-0(17)260831']);
  expect([old.kind, old.effects]).toEqual(['refused', []]);
  expect(old.says).toBe('Lot M-0 of mite expired on 2026-08-31, so it is not taken in.');
  expect(run(one.state, ['(01)09506000134352(10)M-1(17)270501']).says).toMatch(
    /known here with the expiry 2027-03-31/,
  );
  expect(run(one.state, ['(01)09506000134353(10)M-1']).says).toMatch(/check digit of its product is wrong/);
});

test('two devices at one order: each has its own question, lot and hand', () => {
  const open = openReceive('PO-9', 'x', [sampleReceiveLine('JAR', 11, { lotWanted: true })]);
  const both = run(open, [
    scan('C-JAR', { device: 'a' }),
    scan('C-JAR', { device: 'b' }),
    scan('LA', { device: 'a' }),
    scan('LB', { device: 'b' }),
    scan('A-01-1', { device: 'a' }),
  ]);
  expect(both.effects.map(e => [e.type, e.lot])).toEqual([
    ['receive', 'LA'],
    ['receive', 'LB'],
    ['put', 'LA'],
  ]);
  expect(both.state.devices.b!.inHand).toEqual([{ lineId: 'JAR', units: 1, lot: 'LB' }]);
});

test('any scans by any devices: received is what the effects say, never over ordered, never below zero; in hand is received less put away', () => {
  const texts = [
    'C-JAR',
    'CASE-JAR',
    'C-LID',
    'L1',
    '2027-01-31',
    '3',
    'AUK-ALL',
    'AUK-UNDO',
    'AUK-SKIP',
    'A-01-1',
    'B-02-2',
    'noise',
  ];
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom(...texts), fc.constantFrom('a', 'b')), { maxLength: 60 }),
      list => {
        const open = openReceive('PO-1', 'x', [
          sampleReceiveLine('JAR', 14),
          sampleReceiveLine('LID', 5, { lotWanted: true, expiryWanted: true }),
        ]);
        const { state, effects } = run(
          open,
          list.map(([t, device]) => scan(t, { device })),
        );
        return state.lines.every(l => {
          const of = effects.filter(e => e.lineId === l.id);
          const inHand = Object.values(state.devices).flatMap(d => d.inHand.filter(h => h.lineId === l.id));
          return (
            l.received === units(of, 'receive') &&
            l.received >= 0 &&
            l.received <= l.ordered &&
            inHand.reduce((sum, h) => sum + h.units, 0) === l.received - units(of, 'put')
          );
        });
      },
    ),
    { numRuns: 500 },
  );
});
