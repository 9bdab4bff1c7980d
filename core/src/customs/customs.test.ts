import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type CustomsRow, customsRows, declaredValues, missingForCustoms } from './declare.js';
import { customsForm } from './forms.js';

const RATES = new Map([
  ['XDR', 1.33],
  ['EUR', 1.09],
]);
const form = (valueMinor: number, weightMg = 500_000, currency = 'USD', rates = RATES) =>
  customsForm({ valueMinor, weightMg, currency }, rates, 'USD');

describe('which form', () => {
  test('300 SDR at 1.33 are 399.00, and 399.01 is over it', () => {
    expect(form(39_900).form).toBe('CN 22');
    expect(form(39_901).form).toBe('CN 23');
    expect(form(39_901).why).toBe('$399.01 are 300.01 SDR, over 300.');
  });

  test('another currency goes by its own rate', () => {
    expect(form(36_605, 500_000, 'EUR').form).toBe('CN 22');
    expect(form(36_607, 500_000, 'EUR').form).toBe('CN 23');
  });

  test('over 2 kg is CN 23 at any value, 2 kg is not over it', () => {
    expect(form(100, 2_000_000).form).toBe('CN 22');
    expect(form(100, 2_000_001).form).toBe('CN 23');
  });

  test('without a rate the longer form is taken, and says why', () => {
    expect(form(100, 1, 'USD', new Map())).toEqual({
      form: 'CN 23',
      why: 'No rate of the SDR is stored, so that CN 22 cannot be proved to do.',
    });
    expect(form(100, 1, 'SEK').form).toBe('CN 23');
  });
});

const part = fc.record({
  eachMinor: fc.option(fc.integer({ min: 0, max: 9999 })),
  byParcel: fc.array(fc.integer({ min: 0, max: 5 }), { minLength: 2, maxLength: 2 }),
});

describe('what is declared', () => {
  test('all parcels of a line together declare what was paid for it, whatever its pieces are worth', () => {
    fc.assert(
      fc.property(
        fc.array(part, { minLength: 1, maxLength: 5 }),
        fc.integer({ min: 1, max: 1e6 }),
        (parts, goods) => {
          const whole = parts
            .map(p => ({ ...p, quantity: p.byParcel.reduce((a, b) => a + b, 0) }))
            .filter(p => p.quantity > 0);
          fc.pre(whole.length > 0);
          const values = declaredValues(goods, whole);
          expect(values.flat().reduce((a, b) => a + b, 0)).toBe(goods);
          expect(values.flat().every(v => v >= 0)).toBe(true);
        },
      ),
    );
  });

  test('a set is declared by the worth of its pieces, a gift at its own, an unknown worth by units', () => {
    const one = (eachMinor: number | null, byParcel = [1]) => ({ quantity: 1, eachMinor, byParcel });
    expect(declaredValues(1000, [one(600), one(200)])).toEqual([[750], [250]]);
    expect(declaredValues(0, [one(150)])).toEqual([[150]]);
    expect(declaredValues(999, [one(null), one(200)])).toEqual([[500], [499]]);
  });

  test('what waits for a later parcel is not declared in this one', () => {
    expect(declaredValues(1000, [{ quantity: 4, eachMinor: 250, byParcel: [1, 2] }])).toEqual([[250, 500]]);
  });

  test('rows of one product become one and nothing is lost', () => {
    const row = (productId: string, valueMinor: number): CustomsRow => ({
      productId,
      words: productId,
      quantity: 2,
      netMg: 10,
      valueMinor,
      code: '442199',
      origin: 'US',
    });
    expect(customsRows([row('a', 10), row('b', 40), row('a', 25)])).toEqual([
      { ...row('b', 40) },
      { ...row('a', 35), quantity: 4, netMg: 20 },
    ]);
  });

  test('missing facts are named; what is not hazardous needs no number', () => {
    const bare = {
      customsCode: null,
      origin: 'US',
      weightMg: null,
      hazardous: false,
      unNumber: null,
      hazardClass: null,
      hazardName: null,
    };
    expect(missingForCustoms(bare)).toEqual(['customs code', 'weight']);
    expect(missingForCustoms({ ...bare, customsCode: '380891', weightMg: 1, hazardous: true })).toEqual([
      'UN number',
      'hazard class',
      'proper shipping name',
    ]);
  });
});
