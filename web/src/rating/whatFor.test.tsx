import type { ComparedService, CompareView } from '@auk/contract';
import { expect, test } from 'vitest';
import { shown } from '../parts/shown.js';
import { WhatFor } from './parts/WhatFor.js';

const parcel = (more: object = {}) => ({
  box: 'BX-3',
  size: { length: 3_000, width: 2_000, height: 1_000 },
  placed: [],
  weightMg: 1_360_777,
  contents: [
    { quantity: 2, name: 'Honey jar' },
    { quantity: 1, name: 'Lid' },
  ],
  boxMinor: 60,
  ...more,
});
const quote = (charges: [name: string, minor: number][], currency = 'USD') => ({
  currency,
  charges: charges.map(([name, minor]) => ({ name, minor })),
  billable: { says: '3 lb', why: '' },
});
const row = (more: object = {}): ComparedService =>
  ({
    name: 'Heron Parcel',
    parcels: [
      {
        parcel: 0,
        quote: quote([
          ['3 lb to zone 4', 850],
          ['fuel', 100],
        ]),
      },
    ],
    currency: 'USD',
    labelMinor: 950,
    houseMinor: 950,
    minor: 1_010,
    ...more,
  }) as unknown as ComparedService;
const view = (more: object = {}): CompareView =>
  ({ currency: 'USD', parcels: [parcel()], guessed: [], together: null, ...more }) as unknown as CompareView;
const words = (v: CompareView, r: ComparedService) => shown(<WhatFor view={v} row={r} />).words;

test('a price is told part by part, the box with it, and the sum under all of them', () => {
  const said = words(view(), row());
  expect(said).toContain('BX-3 3 lb, 3 pieces');
  expect(said).toContain('Heron Parcel: what it is made of');
  expect(said).toMatch(/3 lb to zone 4 \$8\.50 fuel \$1\.00 box BX-3 \$0\.60 together \$10\.10/);
  expect(said).not.toContain('by today’s rate');
});

test('a label in another currency is told in both, by the rate of today; without one it is not', () => {
  const euro = {
    currency: 'EUR',
    labelMinor: 900,
    houseMinor: 990,
    parcels: [{ parcel: 0, quote: quote([['way', 900]], 'EUR') }],
  };
  expect(words(view(), row(euro))).toMatch(
    /way EUR 9\.00 box BX-3 \$0\.60 EUR 9\.00 by today’s rate \$9\.90 together/,
  );
  expect(words(view(), row({ ...euro, houseMinor: null }))).not.toContain('by today’s rate');
});

test('what is guessed is named, and a parcel without a box or contents says nothing of them', () => {
  expect(words(view({ guessed: ['JAR-12', 'LID'] }), row())).toContain(
    '! Size or weight is a guess for JAR-12, LID. Measure it, and prices are right.',
  );
  const bare = words(view({ parcels: [parcel({ box: null, contents: [], boxMinor: 0 })] }), row());
  expect(bare).not.toContain('BX-3');
  expect(bare).not.toContain('piece');
});

test('of several parcels each is drawn and priced', () => {
  const two = row({
    parcels: [
      { parcel: 0, quote: quote([['way', 500]]) },
      { parcel: 1, quote: quote([['way', 450]]) },
    ],
  });
  const { words: said, markup } = shown(
    <WhatFor view={view({ parcels: [parcel(), parcel({ box: 'BX-1' })] })} row={two} />,
  );
  expect(said).toMatch(/way \$5\.00 box BX-3 \$0\.60 way \$4\.50 box BX-1 \$0\.60/);
  expect(markup).toContain('BX-1 with 2 Honey jar, 1 Lid');
});
