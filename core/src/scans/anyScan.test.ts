import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { COMMANDS } from '../barcode/parseScan.js';
import { sampleProduct } from '../catalog/scanProduct.sample.js';
import { openPrepare, prepareScan } from '../inbound/prepareSession.js';
import { buildScan, openBuild } from '../kits/buildSession.js';
import { samplePackLine } from '../packing/packLine.sample.js';
import { openPack, type PackLine } from '../packing/packState.js';
import { packScan } from '../packing/session.js';
import { openPick } from '../picking/pickState.js';
import { samplePickStop } from '../picking/pickStop.sample.js';
import { pickScan } from '../picking/session.js';
import { sampleReceiveLine } from '../receiving/receiveLine.sample.js';
import { openReceive } from '../receiving/receiveState.js';
import { receiveScan } from '../receiving/session.js';
import { openSort, sortScan } from '../sorting/sortSession.js';
import { wallCells } from '../sorting/wall.js';
import { countScan, openCount } from '../stock/countSession.js';
import type { KnownThing, Scan, Step } from './scan.js';

const packed = (id: string, sku: string, wanted: number, more: Partial<PackLine> = {}) =>
  samplePackLine(id, sampleProduct(sku, 3), wanted, more);
const box = (code: string) => ({
  code,
  name: code,
  tareMg: 100_000,
  limitMg: 5_000_000,
  inner: { length: 2_000, width: 1_500, height: 1_000 },
  kind: 'box' as const,
});

interface Session {
  open: unknown;
  reduce: (state: never, scan: Scan) => Step<unknown, unknown>;
}
const SESSIONS: Record<string, Session> = {
  picking: {
    open: openPick('PL-1', [
      samplePickStop('s1', 'A-01-1', 'FRAME', 10),
      samplePickStop('s2', 'A-01-1', 'LIDTOP', 1),
      samplePickStop('s3', 'B-02-2', 'SMOKER', 2, { lot: { code: 'L-7', expiry: '2027-03-31' } }),
    ]),
    reduce: pickScan,
  },
  packing: {
    open: openPack({
      orderNo: 'OR-1',
      lines: [
        packed('a', 'FRAME', 3, { wants: { warning: 'Sharp edges.' } }),
        packed('b', 'SMOKER', 2, { wants: { serial: 'AA-9' } }),
        packed('c', 'LIDTOP', 2, {
          optional: true,
          wants: { lot: ['L-7', 'L-8'], expiry: true, question: 'Which blade?' },
        }),
        packed('k', 'HIVEKIT', 1, {
          kitParts: [{ product: sampleProduct('BODY', 3), perKit: 2, scanned: 0 }],
        }),
        packed('d', 'KNIFE', 1, { bundle: { id: 'set', name: 'Set', codes: ['SETHARV'], each: 1 } }),
      ],
      boxes: [box('BX-1'), box('BX-2')],
      notes: [{ text: 'Wrap it twice.', word: null }],
    }),
    reduce: packScan,
  },
  receiving: {
    open: openReceive('PO-1', 'Mill', [
      sampleReceiveLine('FRAME', 14),
      sampleReceiveLine('SMOKER', 14, { lotWanted: true, expiryWanted: true }),
      sampleReceiveLine('LIDTOP', 14, { putAway: null }),
    ]),
    reduce: receiveScan,
  },
  sorting: {
    open: openSort(
      'A',
      'TR-1',
      wallCells('A', 1, 2).map(c => ({ id: c.code, code: c.code, mark: c.mark, orderNo: null })),
      ['OR-1', 'OR-2', 'OR-3'].map((orderNo, i) => ({
        id: `l${i}`,
        product: sampleProduct(['FRAME', 'SMOKER', 'FRAME'][i]!, 6),
        orderNo,
        wanted: 2 + i * 5,
        sorted: 0,
      })),
    ),
    reduce: sortScan,
  },
  counting: {
    open: openCount('A-01-1', 7, [
      { sku: 'FRAME', name: 'Frame', lot: null },
      { sku: 'SMOKER', name: 'Smoker', lot: 'L-7' },
      { sku: 'SMOKER', name: 'Smoker', lot: 'L-8' },
    ]),
    reduce: countScan,
  },
  building: {
    open: openBuild('BU-7', { sku: 'HIVEKIT', name: 'Kit', codes: [{ code: 'CASE-HIVEKIT', units: 6 }] }),
    reduce: buildScan,
  },
  preparing: {
    open: openPrepare('IN-7', 'Amber Comb', [
      {
        id: 'a',
        product: sampleProduct('FRAME', 6),
        needs: ['bag', 'label'],
        label: 'X-FRAME',
        wanted: 5,
        done: 0,
        spoiled: 0,
      },
      {
        id: 'b',
        product: sampleProduct('SMOKER', 6),
        needs: ['bag'],
        label: null,
        wanted: 4,
        done: 0,
        spoiled: 0,
      },
    ]),
    reduce: prepareScan,
  },
};

const KNOWN: (KnownThing | null)[] = [
  { kind: 'product', name: 'Frame', sku: 'FRAME', units: 1 },
  { kind: 'product', name: 'Smoker', sku: 'SMOKER', units: 1, lots: true },
  { kind: 'product', name: 'Old veil', sku: 'VEIL', units: 2, retired: true },
  { kind: 'place', name: 'B-02-2' },
  { kind: 'staging', name: 'Staging north' },
  { kind: 'order', name: 'OR-9' },
  { kind: 'list', name: 'PL-9' },
  { kind: 'parcel', name: 'PA-9' },
  { kind: 'box', name: 'BX-9' },
  { kind: 'bench', name: 'Bench 2' },
  { kind: 'serial', name: 'SN-1' },
  { kind: 'tote', name: 'TO-002', carrier: { id: 't2', code: 'TO-002', mark: 'A2', holds: null } },
  { kind: 'tote', name: 'TO-003', carrier: { id: 't3', code: 'TO-003', mark: 'A3', holds: 'OR-5' } },
  { kind: 'trolley', name: 'TR-2', carrier: { id: 'r2', code: 'TR-2', mark: '2', holds: null, most: 6 } },
  null,
];
const TEXTS = [
  ...COMMANDS.map(c => `AUK-${c}`),
  ...[
    'FRAME',
    'SMOKER',
    'LIDTOP',
    'HIVEKIT',
    'BODY',
    'KNIFE',
    'SETHARV',
    'X-FRAME',
    'CASE-FRAME',
    'CASE-HIVEKIT',
  ],
  ...[
    'C-FRAME',
    'C-SMOKER',
    'frame',
    ' FRAME ',
    'A-01-1',
    'a-01-1',
    'B-02-2',
    'TO-001',
    'TO-002',
    'TR-1',
    'CE-A01',
  ],
  ...[
    'OR-1',
    'OR-2',
    'PL-1',
    'PA-1',
    'PO-1',
    'BU-7',
    'IN-7',
    'BX-1',
    'BX-2',
    'BX-9',
    'BE-1',
    'DE-1',
    'AB-1001',
  ],
  ...[
    '1',
    '2',
    '3',
    '12',
    '0',
    '-1',
    '999999',
    '99999999999999999999',
    '2 lb',
    '1.2 kg',
    '0 kg',
    '900 kg',
    '2,5 kg',
  ],
  ...['L-7', 'L-8', 'l-7', 'SN-1', 'SN-2', '2027-03-31', '270331', '2027-02-30', '03/2027', 'Wide', 'WIDE'],
  ...['(01)09506000134352(10)L-7(17)270331', ']C10109506000134352', '09506000134352', '\u001d', '', ' ', '#'],
  ...['constructor', '__proto__', 'x'.repeat(300), 'ß'.repeat(20), '😀', '\ud800', '<b>'],
];
const anyScan = fc.record({
  text: fc.oneof(
    { weight: 9, arbitrary: fc.constantFrom(...TEXTS) },
    { weight: 1, arbitrary: fc.string({ unit: 'binary', maxLength: 30 }) },
  ),
  known: fc.oneof(
    { weight: 3, arbitrary: fc.constant(undefined) },
    { weight: 1, arbitrary: fc.constantFrom(...KNOWN) },
  ),
  device: fc.constantFrom('d', 'e'),
  by: fc.constantFrom(undefined, 'typed' as const, 'pressed' as const),
});
const scanOf = (
  {
    known,
    by,
    ...made
  }: { known: KnownThing | null | undefined } & Pick<Scan, 'text' | 'device'> & {
      by: Scan['by'] | undefined;
    },
  i: number,
): Scan => ({
  id: String(i),
  at: '2026-11-23T08:00:00.000Z',
  count: i,
  ...made,
  ...(known !== undefined && { known }),
  ...(by && { by }),
});

describe.each(Object.entries(SESSIONS))('%s, whatever is scanned', (_, { open, reduce }) => {
  const run = reduce as (state: unknown, scan: Scan) => Step<unknown, unknown>;

  test('each scan has a sentence for an answer, and a refusal leaves everything as it was', () => {
    fc.assert(
      fc.property(fc.array(anyScan, { maxLength: 40 }), scans => {
        let state = open;
        for (const [i, made] of scans.entries()) {
          const before = JSON.stringify(state);
          const { state: after, answer, effects } = run(state, scanOf(made, i));
          expect(JSON.stringify(state), 'the state that was given is not written on').toBe(before);
          for (const words of [answer.says, answer.next]) {
            expect(words.length).toBeLessThan(700);
            expect(words).not.toMatch(/undefined|NaN|\[object|\bnull\b/);
          }
          expect(answer.says).toMatch(/\S.*[.?!”")]$/su);
          if (answer.kind === 'refused' || answer.kind === 'unknown') {
            expect(JSON.stringify(after)).toBe(before);
            // What was taken for another is told to the lead; nothing else follows from a refusal.
            expect((effects as { type: string }[]).filter(e => e.type !== 'mix-up')).toEqual([]);
            expect(answer.tone).not.toBe('right');
          }
          for (const effect of effects as { units?: number }[])
            if (effect.units !== undefined) expect(Number.isSafeInteger(effect.units)).toBe(true);
          state = after;
        }
      }),
      { numRuns: 300 },
    );
  });

  test('kept and read again at any moment, a session goes on as if nothing had been', () => {
    fc.assert(
      fc.property(fc.array(anyScan, { maxLength: 30 }), scans => {
        let [kept, live] = [open, open];
        for (const [i, made] of scans.entries()) {
          const scan = scanOf(made, i);
          const one = run(live, scan);
          const other = run(JSON.parse(JSON.stringify(kept)), scan);
          expect(other.answer).toEqual(one.answer);
          expect(JSON.stringify(other.effects)).toBe(JSON.stringify(one.effects));
          [kept, live] = [other.state, one.state];
        }
        expect(JSON.stringify(kept)).toBe(JSON.stringify(live));
      }),
      { numRuns: 150 },
    );
  });
});
