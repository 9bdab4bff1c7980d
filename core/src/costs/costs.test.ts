import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type AgreedLabel, auditLine, type BillLine } from './billAudit.js';
import { readBill } from './readBill.js';
import { costsByGroup, whyLost } from './shippingCosts.js';

const line = (more: Partial<BillLine> = {}): BillLine => ({
  tracking: 'RE47000001',
  service: 'Ground',
  weightMg: 1_000_000,
  minor: 900,
  charges: [
    { name: 'carriage', minor: 800 },
    { name: 'fuel', minor: 100 },
  ],
  ...more,
});
const bought = (more: Partial<AgreedLabel> = {}): AgreedLabel => ({
  state: 'bought',
  minor: 900,
  currency: 'USD',
  charges: line().charges,
  weightMg: 1_000_000,
  billedOn: null,
  ...more,
});

describe('a row of a bill', () => {
  test('what agrees asks for nothing; what is cheaper neither', () => {
    expect(auditLine(line(), bought(), 'USD')).toEqual({
      verdict: 'agrees',
      agreedMinor: 900,
      claimMinor: 0,
      says: '',
    });
    expect(auditLine(line({ minor: 850 }), bought(), 'USD')).toMatchObject({
      verdict: 'cheaper',
      claimMinor: 0,
      says: '$0.50 less than was agreed.',
    });
  });

  test('what is dearer names the charges that make it', () => {
    const charges = [
      { name: 'Carriage', minor: 800 },
      { name: 'fuel', minor: 140 },
      { name: 'address correction', minor: 500 },
    ];
    expect(auditLine(line({ minor: 1440, charges }), bought(), 'USD')).toEqual({
      verdict: 'dearer',
      agreedMinor: 900,
      claimMinor: 540,
      says: '$5.40 more than was agreed: fuel $1.40 instead of $1.00; address correction $5.00 was not agreed.',
    });
  });

  test('a weight that was found greater is the reason, unless scales just differ', () => {
    const dear = { minor: 1000, charges: [] };
    expect(auditLine(line({ ...dear, weightMg: 1_500_000 }), bought(), 'USD').verdict).toBe('heavier');
    expect(auditLine(line({ ...dear, weightMg: 1_019_000 }), bought(), 'USD').verdict).toBe('dearer');
    expect(auditLine(line({ ...dear, weightMg: null }), bought(), 'USD').verdict).toBe('dearer');
  });

  test('nothing is owed for strangers, for labels that were given back, for a second time', () => {
    expect(auditLine(line(), null, 'USD')).toMatchObject({ verdict: 'unknown', claimMinor: 900 });
    expect(auditLine(line(), bought({ state: 'voided' }), 'USD')).toMatchObject({
      verdict: 'voided',
      claimMinor: 900,
    });
    expect(auditLine(line(), bought({ billedOn: 'B-7' }), 'USD')).toMatchObject({
      verdict: 'twice',
      claimMinor: 900,
      says: 'It stood on the bill B-7 already.',
    });
    expect(auditLine(line(), bought({ currency: 'CAD' }), 'USD')).toMatchObject({
      verdict: 'dearer',
      agreedMinor: null,
    });
  });

  test('the claim is never more than was billed, and paying what is left of a dearer row is what was agreed', () => {
    fc.assert(
      fc.property(fc.nat(1e6), fc.nat(1e6), (billed, agreed) => {
        const row = line({ minor: billed, charges: [] });
        const { claimMinor } = auditLine(row, bought({ minor: agreed }), 'USD');
        expect(billed - claimMinor).toBe(Math.min(billed, agreed));
      }),
    );
  });
});

describe('reading a bill', () => {
  const head = ['Tracking number', 'Service', 'Weight', 'Unit', 'Amount', 'Fuel', 'Residential'];

  test('columns by their headings, charges by theirs, weights with a unit beside them', () => {
    const read = readBill([head, ['RE4700 0001', 'Ground', '2', 'lb', '9,40', '1.00', '']], 'USD');
    expect(read).toEqual({
      ok: true,
      value: [
        {
          tracking: 'RE47000001',
          service: 'Ground',
          weightMg: 907_185,
          minor: 940,
          charges: [{ name: 'Fuel', minor: 100 }],
        },
      ],
    });
  });

  test('every bad row is named, and none is taken', () => {
    const rows = [
      head,
      ['RE47000001', '', '', '', 'much', '', ''],
      ['x', '', '2', 'stones', '1', 'dear', ''],
    ];
    const read = readBill(rows, 'USD');
    expect(read.ok).toBe(false);
    const bad = read.ok ? [] : read.problem;
    expect(bad.map(b => b.row)).toEqual([2, 3]);
    expect(bad[1]!.why).toMatch(/tracking number.*weight.*Fuel/);
  });

  test('a file without the columns, and one without rows, say so', () => {
    const why = (rows: string[][]) => {
      const read = readBill(rows, 'USD');
      return read.ok ? '' : read.problem[0]!.why;
    };
    expect(why([['a', 'b']])).toContain('tracking and amount');
    expect(why([head])).toBe('The bill has no rows.');
    expect(why([])).toContain('tracking and amount');
  });
});

describe('what shipping costs', () => {
  const label = fc.record({
    orderId: fc.constantFrom('a', 'b', 'c'),
    group: fc.constantFrom('x', 'y'),
    costMinor: fc.nat(5000),
    back: fc.boolean(),
  });
  const paidOf = { a: 0, b: 799, c: 1000 } as Record<string, number>;

  test('groups add up to all that was paid and spent, however orders are spread over them', () => {
    fc.assert(
      fc.property(fc.array(label, { maxLength: 12 }), labels => {
        const groups = costsByGroup(labels.map(l => ({ ...l, paidMinor: paidOf[l.orderId]! })));
        const sum = (of: 'costMinor' | 'paidMinor' | 'parcels') => groups.reduce((n, g) => n + g[of], 0);
        const orders = [...new Set(labels.map(l => l.orderId))];
        expect(sum('paidMinor')).toBe(orders.reduce((n, o) => n + paidOf[o]!, 0));
        expect(sum('costMinor')).toBe(labels.reduce((n, l) => n + l.costMinor, 0));
        expect(sum('parcels')).toBe(labels.filter(l => !l.back).length);
      }),
    );
  });

  test('what was paid for an order follows what its parcels cost', () => {
    const of = (group: string, costMinor: number) => ({
      orderId: 'a',
      group,
      costMinor,
      paidMinor: 900,
      back: false,
    });
    expect(costsByGroup([of('zone 10', 600), of('zone 2', 300)])).toEqual([
      { name: 'zone 2', parcels: 1, costMinor: 300, paidMinor: 300 },
      { name: 'zone 10', parcels: 1, costMinor: 600, paidMinor: 600 },
    ]);
  });

  test('an order that lost says why', () => {
    const charges = [
      { name: 'carriage', minor: 900 },
      { name: 'fuel', minor: 90 },
      { name: 'residential', minor: 450 },
    ];
    const lost = { paidMinor: 0, parcels: 2, back: false, byVolume: true, charges };
    expect(whyLost(lost, 'USD')).toBe(
      'Shipping was free for the buyer, it took 2 parcels, it was paid by volume, residential $4.50.',
    );
    expect(whyLost({ paidMinor: 5, parcels: 1, back: false, byVolume: false, charges: [] }, 'USD')).toBe(
      'Carriage alone cost more.',
    );
    expect(whyLost({ paidMinor: 5, parcels: 1, back: true, byVolume: false, charges: [] }, 'USD')).toBe(
      'A return label was bought.',
    );
  });
});
