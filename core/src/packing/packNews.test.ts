import fc from 'fast-check';
import { expect, test } from 'vitest';
import { sampleProduct } from '../catalog/scanProduct.sample.js';
import type { Scan } from '../scans/scan.js';
import { looksLike } from './looksLike.js';
import { samplePackLine } from './packLine.sample.js';
import { whatChanged } from './packNews.js';
import { openPack, type PackLine, type PackScan, type PackState, packClosed } from './packState.js';
import { packScan } from './session.js';

let count = 0;
const scan = (text: string, more: Partial<PackScan> = {}): PackScan => ({
  id: String(++count),
  text,
  at: '2026-11-23T08:00:00.000Z',
  device: 'd',
  count,
  ...more,
});
const product = (sku: string) => sampleProduct(sku);
const line = (sku: string, wanted: number, more: Partial<PackLine> = {}) =>
  samplePackLine(sku, product(sku), wanted, more);
const open = (lines: PackLine[]): PackState => openPack({ orderNo: 'OR-1', lines, boxes: [] });
const play = (state: PackState, ...scans: (string | PackScan)[]) => {
  let step = { state, answer: null as ReturnType<typeof packScan>['answer'] | null };
  for (const s of scans) step = packScan(step.state, typeof s === 'string' ? scan(s) : (s as Scan));
  return step;
};
/** The news that an order says these lines now. */
const news = (state: PackState, lines: PackLine[], proposed?: string[]): PackScan =>
  scan('', {
    news: { kind: 'lines', lines, says: whatChanged(state, lines), ...(proposed && { proposed }) },
  });
const packedOf = (state: PackState) => state.lines.map(l => [l.id, l.packed, l.wanted]);

test('what changed is told line by line, and nothing when nothing did', () => {
  const state = open([line('JAR', 3), line('KNIFE', 1)]);
  expect(whatChanged(state, [line('JAR', 3), line('KNIFE', 1)])).toEqual([]);
  expect(whatChanged(state, [line('JAR', 2), line('LID', 1)])).toEqual([
    '2 × jar instead of 3',
    '1 × lid instead of 0',
    'no knife any more',
  ]);
  const jar = (more: Partial<PackLine>) => whatChanged(state, [line('JAR', 3, more), line('KNIFE', 1)]);
  expect(jar({ optional: true })).toEqual(['jar may be left out']);
  expect(jar({ apart: 'JAR' })).toEqual(['jar has a parcel of its own']);
  expect(jar({ piece: null })).toEqual(['jar was measured']);
  expect(
    jar({ product: { ...product('JAR'), codes: [...product('JAR').codes, { code: 'J2', units: 1 }] } }),
  ).toEqual(['jar has a code more']);
  const apart = open([line('JAR', 3, { apart: 'JAR', optional: true })]);
  expect(whatChanged(apart, [line('JAR', 3)])).toEqual(['jar must go along', 'jar goes with the rest']);
});

test('what was scanned stays in; what is not wanted any more must come out before the order is whole', () => {
  const begun = play(open([line('JAR', 2), line('KNIFE', 1)]), 'JAR', 'KNIFE').state;
  const changed = play(begun, news(begun, [line('JAR', 1)]));
  expect(changed.answer).toMatchObject({
    kind: 'moved',
    says: 'The order was changed: 1 × jar instead of 2, no knife any more.',
  });
  expect(packedOf(changed.state)).toEqual([
    ['JAR', 1, 1],
    ['KNIFE', 1, 0],
  ]);
  // Scanned once more it comes out.
  const out = play(changed.state, 'KNIFE').state;
  expect(packedOf(out)).toEqual([
    ['JAR', 1, 1],
    ['KNIFE', 0, 0],
  ]);
});

test('boxes are proposed anew when they are given, and a question that was open is dropped', () => {
  const state = open([line('JAR', 2)]);
  const next = play(state, news(state, [line('JAR', 4)], ['BX-9'])).state;
  expect(next.proposed).toEqual(['BX-9']);
  expect(next.parcels.map(p => p.boxCode)).toEqual(['BX-9']);
  expect(next.asking).toBeNull();
  expect(play(state, news(state, [line('JAR', 4)])).state.proposed).toEqual(state.proposed);
});

test('a parcel that was taken open again is the one at hand', () => {
  const whole = open([line('JAR', 1)]);
  const shut: PackState = {
    ...play(whole, 'JAR').state,
    parcels: [{ ...play(whole, 'JAR').state.parcels[0]!, closed: true }],
  };
  expect(packClosed(shut)).toBe(true);
  const again = play(shut, scan('', { news: { kind: 'reopened', parcel: 1 } }));
  expect(again.answer?.says).toBe('Parcel 1 is open again.');
  expect(packClosed(again.state)).toBe(false);
});

test('whatever an order says in turn, no unit that is in is forgotten, and none is in twice', () => {
  const skus = ['JAR', 'LID', 'KNIFE'];
  const order = fc.uniqueArray(fc.tuple(fc.constantFrom(...skus), fc.integer({ min: 1, max: 3 })), {
    minLength: 1,
    maxLength: 3,
    selector: ([sku]) => sku,
  });
  fc.assert(
    fc.property(fc.array(fc.oneof(order, fc.constantFrom(...skus)), { maxLength: 14 }), acts => {
      let state = open([line('JAR', 2), line('LID', 2)]);
      const inside = () => state.lines.reduce((n, l) => n + l.packed, 0);
      for (const act of acts) {
        const before = inside();
        if (typeof act === 'string') {
          const step = packScan(state, scan(act) as Scan);
          state = step.state;
          expect(Math.abs(inside() - before)).toBeLessThanOrEqual(1);
          continue;
        }
        state = play(
          state,
          news(
            state,
            act.map(([sku, n]) => line(sku, n)),
          ),
        ).state;
        // News move nothing: what is in stays in.
        expect(inside()).toBe(before);
        expect(new Set(state.lines.map(l => l.id)).size).toBe(state.lines.length);
      }
      for (const l of state.lines) expect(l.packed).toBeGreaterThanOrEqual(0);
    }),
  );
});

test('a name that is easily read for another is found, the most alike first', () => {
  const others = ['Honey jar, hex, 9 oz', 'Honey jar, hex, 12 oz', 'Hive tool'];
  expect(looksLike('Honey jar, hex, 12 oz.', others)).toBe('Honey jar, hex, 12 oz');
  expect(looksLike('Veil', others)).toBeNull();
  expect(looksLike('Anything', [])).toBeNull();
});
