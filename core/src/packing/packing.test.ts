import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { ScanProduct } from '../catalog/scanProduct.js';
import type { Scan } from '../scans/scan.js';
import { openPack, type PackLine, type PackState, packDone, packScan } from './session.js';

let count = 0;
const scan = (text: string, known?: Scan['known']): Scan => ({
  id: String(++count),
  text,
  at: '2026-11-23T08:00:00.000Z',
  device: 'd',
  count,
  ...(known && { known }),
});
const product = (sku: string): ScanProduct => ({
  id: sku,
  sku,
  name: sku.toLowerCase(),
  codes: [
    { code: sku, units: 1 },
    { code: `CASE-${sku}`, units: 3 },
  ],
  picture: null,
  hint: null,
});
const line = (id: string, sku: string, wanted: number, more: Partial<PackLine> = {}): PackLine => ({
  id,
  product: product(sku),
  wanted,
  packed: 0,
  kitParts: [],
  bundle: null,
  ...more,
});
const KIT = line('k', 'HIVEKIT', 2, {
  kitParts: [
    { product: product('BODY'), perKit: 1, scanned: 0 },
    { product: product('FRAME'), perKit: 2, scanned: 0 },
  ],
});
const SET = { id: 'set', name: 'Harvest set', codes: ['SETHARV'] };
const lines = () => [
  line('a', 'JARHEX', 3),
  KIT,
  line('b', 'KNIFE', 1, { bundle: { ...SET, each: 1 } }),
  line('c', 'BUCKET', 2, { bundle: { ...SET, each: 2 } }),
];
const open = () =>
  openPack('OR-1', lines(), [{ code: 'BX-1', name: 'B1', tareMg: 1, limitMg: 5_000_000 }], null);
const play = (texts: string[], from: PackState = open()) => {
  let step: ReturnType<typeof packScan> | null = null;
  for (const text of texts) step = packScan(step?.state ?? from, scan(text));
  return step!;
};

test('right, surplus, wrong and unknown', () => {
  expect(play(['JARHEX']).answer.says).toBe('Right. 1 of 3 jarhex.');
  expect(play(['CASE-JARHEX']).state.lines[0]!.packed).toBe(3);
  expect(play(['CASE-JARHEX', 'JARHEX']).answer.says).toBe('One too many: 3 of 3 jarhex are in already.');
  expect(play(['JARHEX', 'CASE-JARHEX']).answer.says).toBe('That code counts 3, and only 2 are missing.');
  expect(packScan(open(), scan('BOOK', { kind: 'product', name: 'Book' })).answer.says).toBe(
    'Not in this order: Book.',
  );
  expect(play(['what\tis']).answer.tone).toBe('wrong');
});

test('a kit by its own code or by its parts', () => {
  expect(play(['HIVEKIT']).effects).toEqual([{ type: 'pack', lineId: 'k', units: 1 }]);
  expect(play(['BODY', 'FRAME']).state.lines[1]!.packed).toBe(0);
  const whole = play(['BODY', 'FRAME', 'FRAME']);
  expect(whole.effects).toEqual([{ type: 'pack', lineId: 'k', units: 1 }]);
  expect(whole.state.lines[1]).toMatchObject({ packed: 1 });
  expect(play(['BODY', 'BODY']).answer.says).toBe('One too many: hivekit has its 1 body.');
  const undone = packScan(whole.state, scan('AUK-UNDO'));
  expect(undone.effects).toEqual([{ type: 'pack', lineId: 'k', units: -1 }]);
  expect(undone.state.lines[1]!.kitParts.map(k => k.scanned)).toEqual([1, 1]);
  expect(play(['HIVEKIT', 'BODY', 'HIVEKIT']).answer.says).toContain('was begun by its parts');
});

test('a bundle by its own code or piece by piece', () => {
  expect(play(['SETHARV']).effects).toEqual([
    { type: 'pack', lineId: 'b', units: 1 },
    { type: 'pack', lineId: 'c', units: 2 },
  ]);
  expect(play(['BUCKET', 'SETHARV']).answer.tone).toBe('wrong');
});

test('a parcel is closed only whole, boxed and weighed', () => {
  expect(play(['AUK-CLOSE']).answer.says).toBe('8 pieces still missing; the parcel cannot be closed.');
  const full = play(['CASE-JARHEX', 'HIVEKIT', 'HIVEKIT', 'SETHARV']);
  expect(packDone(full.state)).toBe(true);
  expect(packScan(full.state, scan('AUK-CLOSE')).answer.says).toBe('No box is chosen.');
  expect(play(['BX-9'], full.state).answer.says).toBe('There is no box BX-9.');
  expect(play(['BX-1', '6 kg'], full.state).answer.tone).toBe('wrong');
  const closed = play(['BX-1', '4 kg', 'AUK-LABEL'], full.state);
  expect(closed.effects).toEqual([{ type: 'close' }]);
  expect(play(['AUK-UNDO'], closed.state).answer.tone).toBe('wrong');
});

test('whatever is scanned: counts stay within what is wanted, effects add up, undoing all gives the opening state', () => {
  const text = fc.constantFrom(
    'JARHEX',
    'CASE-JARHEX',
    'HIVEKIT',
    'BODY',
    'FRAME',
    'CASE-FRAME',
    'SETHARV',
    'KNIFE',
    'BUCKET',
    'AUK-UNDO',
    'x',
  );
  fc.assert(
    fc.property(fc.array(text, { maxLength: 40 }), texts => {
      let state = open();
      const sum = new Map<string, number>();
      const run = (t: string) => {
        const step = packScan(state, scan(t));
        for (const e of step.effects)
          if (e.type === 'pack') sum.set(e.lineId, (sum.get(e.lineId) ?? 0) + e.units);
        state = step.state;
      };
      texts.forEach(run);
      const within = state.lines.every(
        l =>
          l.packed >= 0 &&
          l.packed <= l.wanted &&
          l.kitParts.every(k => k.scanned >= 0 && k.scanned <= k.perKit) &&
          (sum.get(l.id) ?? 0) === l.packed,
      );
      while (state.history.length > 0) run('AUK-UNDO');
      return within && JSON.stringify(state) === JSON.stringify(open());
    }),
    { numRuns: 400 },
  );
});
