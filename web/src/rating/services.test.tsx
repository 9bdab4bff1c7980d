import type { ComparedService, CompareView } from '@auk/contract';
import { expect, test } from 'vitest';
import { shown } from '../parts/shown.js';
import { Services } from './parts/Services.js';

const row = (more: Partial<ComparedService>): ComparedService => ({
  carrier: 'heron',
  carrierName: 'Heron Post',
  account: { number: '', name: '' } as ComparedService['account'],
  service: 'parcel',
  name: 'Heron Parcel',
  parcels: [{ parcel: 0, quote: { billable: { says: '3 lb' } } as never }],
  labelMinor: 950,
  currency: 'USD',
  houseMinor: 950,
  boxesMinor: 60,
  minor: 1_010,
  marginMinor: 240,
  collected: '2026-11-25',
  arrives: '2026-11-27',
  days: 2,
  keeps: true,
  cheapest: false,
  fastest: false,
  usual: false,
  ...more,
});
const view = (rows: ComparedService[], more: Partial<CompareView> = {}): CompareView =>
  ({
    order: { id: 'o', no: 'OR-7', chosen: null },
    currency: 'USD',
    promised: '2026-11-28',
    paidMinor: 1_250,
    parcels: [{ box: 'BX-3' }],
    rows,
    dropped: [],
    silent: [],
    ...more,
  }) as unknown as CompareView;
const services = (v: CompareView) =>
  shown(<Services view={v} keyOf={r => `${r.carrier} ${r.service}`} pick={() => undefined} />).words;

test('a service tells its box, what it is paid by, when it comes, what it costs and what is left of what was paid', () => {
  const words = services(view([row({ cheapest: true, usual: true })]));
  expect(words).toContain('Heron Parcel Heron Post BX-3 3 lb');
  expect(words).toContain('✓ in time $10.10 $2.40');
  expect(words).toContain('cheapest in time taken when nobody chooses');
  expect(words).not.toContain('fastest');
});

test('one that is late, costs more than was paid, or has another currency says so without its colour', () => {
  const words = services(
    view([row({ keeps: false, fastest: true, marginMinor: -320, currency: 'EUR', labelMinor: 900 })]),
  );
  expect(words).toContain('✕ too late $10.10 EUR 9.00 −$3.20');
  expect(words).toContain('fastest');
  expect(services(view([row({ currency: 'EUR', labelMinor: 900, houseMinor: null })]))).toContain(
    'no rate EUR 9.00',
  );
});

test('several parcels are told together, an account by its name', () => {
  const parcels = [0, 1].map(parcel => ({ parcel, quote: { billable: { says: `${parcel + 2} lb` } } }));
  const two = row({ parcels: parcels as never, account: { number: '77', name: 'Brand two' } as never });
  const words = services(view([two], { parcels: [{ box: 'BX-3' }, { box: 'BX-1' }] as never }));
  expect(words).toContain('Heron Post, Brand two');
  expect(words).toContain('BX-3 + BX-1 2 lb + 3 lb');
});

test('without an order nothing is said of boxes and margins; without a promise the day of collection stands there', () => {
  const words = services(
    view([row({ marginMinor: null })], {
      order: null,
      promised: null,
      paidMinor: null,
      parcels: [{ box: null }] as never,
    }),
  );
  expect(words).toContain('Paid as');
  expect(words).not.toContain('Margin');
  expect(words).not.toContain('in time');
  expect(words).toMatch(/collected .*25/);
});

test('who is silent and who does not take it are named with why; when nobody does, the table says so', () => {
  const none = services(
    view([], {
      silent: [{ carrierName: 'Redfen Parcel', why: 'It did not answer within 10 s.' }] as never,
      dropped: [{ carrierName: 'Heron Post', why: 'too heavy' }] as never,
    }),
  );
  expect(none).toContain('No service takes this parcel there. What stands below says why.');
  expect(none).toContain('Redfen Parcel: It did not answer within 10 s.');
  expect(none).toContain('Not offered: Heron Post: too heavy');
});
