import type { OrderView } from '@auk/contract';
import { expect, test } from 'vitest';
import { shown } from '../parts/shown.js';
import { MoneyPanel, WayPanel } from './parts/SidePanels.js';

const order = (money: Partial<OrderView['money']>, more: object = {}): OrderView =>
  ({
    row: { currency: 'USD', promised: '2026-11-28', leavesWith: null },
    payment: 'paid',
    settled: 'paid',
    labelsMinor: null,
    placedAt: null,
    serviceAsked: '',
    weightOverrideMg: null,
    lists: [],
    parcels: [],
    money: {
      goodsMinor: 2_000,
      discountMinor: 0,
      shippingMinor: 795,
      taxMinor: 120,
      totalMinor: 2_915,
      paidMinor: 2_915,
      balanceMinor: 0,
      ...money,
    },
    ...more,
  }) as unknown as OrderView;
const panel = (o: OrderView, Panel = MoneyPanel) =>
  shown(<Panel order={o} save={() => undefined as never} can={false} open={false} />);

test('what was paid in full owes nothing and says nothing of it', () => {
  const { words, markup } = panel(order({}));
  expect(words).toMatch(/Goods \$20\.00 .* Tax \$1\.20 Total \$29\.15/);
  expect(words).not.toMatch(/Due|To refund|By the money|Labels cost/);
  for (const value of ['$0.00', '$7.95', '$29.15']) expect(markup).toContain(`value="${value}"`);
});

test('what is due and what is to refund are told by their words, without a sign', () => {
  expect(panel(order({ balanceMinor: -915 })).words).toMatch(/Due \$9\.15$/);
  expect(panel(order({ balanceMinor: 915 })).words).toMatch(/To refund \$9\.15$/);
});

test('labels that cost more than was paid for shipping say by how much', () => {
  expect(panel(order({}, { labelsMinor: 700 })).words).toMatch(/Labels cost \$7\.00$/);
  expect(panel(order({}, { labelsMinor: 1_000 })).words).toContain('! $2.05 more than was paid for shipping');
});

test('where the money says otherwise than the channel, its word stands there', () => {
  const words = panel(order({ balanceMinor: -915 }, { settled: 'part paid' })).words;
  expect(words).toContain('By the money part paid');
});

test('a draft that is paid is paid in full when it is entered, and owes nothing before', () => {
  const draft = order({ paidMinor: 0, balanceMinor: -2_915 }, { draft: true, settled: 'unpaid' });
  expect(panel(draft).words).toMatch(/In full when it is entered$/);
  expect(panel(draft).words).not.toMatch(/Due|By the money/);
  expect(panel({ ...draft, payment: 'unpaid' } as OrderView).words).toMatch(/Due \$29\.15$/);
  const free = order({ totalMinor: 0, paidMinor: 0, balanceMinor: 0 }, { draft: true });
  expect(panel(free).words).not.toMatch(/In full|Due|By the money/);
});

test('the way tells what is planned, and each parcel with its carrier, number, price and label', () => {
  const bare = panel(order({}), WayPanel).words;
  expect(bare).toContain('Placed not yet');
  expect(bare).toContain('Leaves not planned');
  const parcel = {
    no: 'PA-7',
    state: 'labelled',
    carrier: 'Heron Post',
    service: 'Heron Parcel',
    tracking: 'HP470000017US',
    minor: 950,
    currency: 'EUR',
    track: null,
    trouble: null,
  };
  const { words, markup } = panel(order({}, { parcels: [parcel], lists: ['PL-3'] }), WayPanel);
  expect(words).toContain('Pick list PL-3');
  expect(words).toContain('PA-7 labelled Heron Post, Heron Parcel HP470000017US EUR 9.50 label');
  expect(markup).toContain('href="/api/v1/parcels/PA-7/label.pdf"');
  const gone = panel(
    order({}, { parcels: [{ ...parcel, state: 'departed', track: 'on the way' }] }),
    WayPanel,
  );
  expect(gone.words).toContain('PA-7 ▶ on the way Heron Post');
  const unlabelled = { ...parcel, carrier: '', tracking: '', minor: null, state: 'packed' };
  expect(panel(order({}, { parcels: [unlabelled] }), WayPanel).markup).not.toContain('label.pdf');
});

test('a cancelled order leaves with nothing, and only what was paid for it can still be changed', () => {
  const row = { currency: 'USD', promised: '2026-11-28', leavesWith: null, stage: 'Cancelled' };
  const way = panel(order({}, { row }), WayPanel).words;
  expect(way).toContain('Promised Sat 28 Nov');
  expect(way).not.toMatch(/Leaves|Asked for|Weight/);
  const money = shown(
    <MoneyPanel
      order={order({ balanceMinor: 2_915 }, { row })}
      save={() => undefined as never}
      can
      open={false}
    />,
  );
  expect(money.words).toMatch(/To refund \$29\.15$/);
  expect(money.markup.match(/readonly=""/gi)).toHaveLength(2);
});
