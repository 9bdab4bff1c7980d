import fc from 'fast-check';
import { expect, test } from 'vitest';
import { documentTotals, type OrderDocument } from './document.js';
import { openBalance } from './settled.js';
import { splitDocument } from './split.js';

const line = fc.record({
  quantity: fc.integer({ min: 1, max: 20 }),
  priceMinor: fc.integer({ min: 0, max: 50_000 }),
  taxPpm: fc.option(fc.integer({ min: 0, max: 250_000 })),
  taxMinor: fc.option(fc.integer({ min: 0, max: 9_999 })),
});
const whole = fc
  .record({
    lines: fc.array(line, { minLength: 1, maxLength: 6 }),
    shippingMinor: fc.integer({ min: 0, max: 5_000 }),
    share: fc.double({ min: 0, max: 1, noNaN: true }),
  })
  .map(({ lines, shippingMinor, share }): OrderDocument => {
    const goods = lines.reduce((n, l) => n + l.quantity * l.priceMinor, 0);
    return {
      head: { shippingMinor, discountMinor: Math.floor(goods * share), paidMinor: 0 },
      lines: Object.fromEntries(lines.map((l, i) => [`SKU${i}#1`, { title: 't', ...l }])),
    };
  });
const cut = fc.tuple(whole, fc.array(fc.nat(), { minLength: 6, maxLength: 6 })).map(([document, picks]) => ({
  document,
  going: Object.entries(document.lines).map(([key, l], i) => ({
    key,
    quantity: picks[i]! % (Number(l.quantity) + 1),
  })),
}));
const totals = (d: OrderDocument) => {
  const money = documentTotals(d);
  return { ...money, balance: openBalance('paid', Number(d.head.paidMinor), money.total) };
};

test('every amount of the parts sums to the whole’s, whatever was paid', () => {
  fc.assert(
    fc.property(cut, fc.integer({ min: 0, max: 2_000_000 }), ({ document, going }, paidMinor) => {
      document.head.paidMinor = paidMinor;
      const split = splitDocument(document, going);
      if (!split.ok) return;
      const [all, stay, go] = [totals(document), totals(split.value.stay), totals(split.value.go)];
      if (Object.keys(split.value.go.lines).length === 0) return;
      for (const of of ['goods', 'discount', 'shipping', 'tax', 'total', 'balance'] as const)
        expect(stay[of] + go[of], of).toBe(all[of]);
    }),
    { numRuns: 2_000 },
  );
});

test('what was fully paid owes nothing in either part', () => {
  fc.assert(
    fc.property(cut, ({ document, going }) => {
      document.head.paidMinor = totals(document).total;
      const split = splitDocument(document, going);
      if (!split.ok || Object.keys(split.value.go.lines).length === 0) return;
      expect(totals(split.value.stay).balance).toBe(0);
      expect(totals(split.value.go).balance).toBe(0);
    }),
    { numRuns: 2_000 },
  );
});

test('an order whose tax differs by line: each part pays its own tax', () => {
  const document: OrderDocument = {
    head: { shippingMinor: 1_000, discountMinor: 0, paidMinor: 12_500 },
    lines: {
      'FOOD#1': { title: 'Food', quantity: 1, priceMinor: 5_000, taxPpm: 0, taxMinor: null },
      'TOOL#1': { title: 'Tool', quantity: 1, priceMinor: 5_000, taxPpm: 300_000, taxMinor: null },
    },
  };
  const split = splitDocument(document, [{ key: 'TOOL#1', quantity: 1 }]);
  expect(split.ok && split.value.go.head).toMatchObject({ shippingMinor: 500, paidMinor: 7_000 });
  expect(split.ok && split.value.stay.head).toMatchObject({ shippingMinor: 500, paidMinor: 5_500 });
});

test('units that are not there, and an order of which nothing would stay', () => {
  const document: OrderDocument = {
    head: { shippingMinor: 0, discountMinor: 0, paidMinor: 0 },
    lines: { 'A#1': { title: 'A', quantity: 2, priceMinor: 100 } },
  };
  expect(splitDocument(document, [{ key: 'B#1', quantity: 1 }])).toMatchObject({
    problem: { code: 'no such units', key: 'B#1' },
  });
  expect(splitDocument(document, [{ key: 'A#1', quantity: 3 }])).toMatchObject({
    problem: { code: 'no such units' },
  });
  expect(splitDocument(document, [{ key: 'A#1', quantity: 2 }])).toMatchObject({
    problem: { code: 'nothing stays' },
  });
});
