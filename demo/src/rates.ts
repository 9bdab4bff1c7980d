import { type RateSheet, readRateSheet, ZONE_MILES } from '@auk/core';

/** How a stand-in carrier speaks: `plain` JSON with keys, `xml`, `keyless` (asked by reference before buying again), `freight` for pallets. */
export type CarrierHabit = 'plain' | 'xml' | 'keyless' | 'freight';

/** A carrier of the demo: code, name, habits, how its tracking numbers look, and what the house account pays. */
export interface DemoCarrier {
  code: string;
  name: string;
  habit: CarrierHabit;
  tracking: string;
  /** It sends labels that it has drawn itself. */
  draws: boolean;
  /** Orders up to this weight are planned with it before a label is bought, in milligrams; null for none. */
  planUpToMg: number | null;
  /** What its accounts pay, the house's own (without a number) first. */
  accounts: DemoAccount[];
}

/** An account with its sheet: the rows of the file, and what they say. */
export interface DemoAccount {
  number: string;
  rows: string[][];
  sheet: RateSheet;
}

type Cells = (string | number)[];

const amount = (minor: number): string => (Math.round(minor) / 100).toFixed(2);
const range = (n: number): number[] => Array.from({ length: n }, (_, i) => i + 1);

/** Eight zones by distance, as the trade has them, and a ninth for the islands and the far north. */
const MILES = [...ZONE_MILES, 9000];
const FAR_OFF = 'postcode 967 968 995 996 997 998 999';
const HOME_ZONES = [...MILES.map((_, i) => String(i + 1)), '9'];

function homeZones(service: string, days: number[]): Cells[] {
  return [
    ['prices', service, ...HOME_ZONES],
    ...MILES.map((m, i): Cells => ['zone', service, i + 1, 'US', `up to ${m} mi`, days[i]!]),
    ['zone', service, 9, 'US', FAR_OFF, days[8]!],
  ];
}

/** Prices in cents: a base, more for each step and each zone. */
function weights(
  service: string,
  unit: string,
  upTo: number[],
  base: number,
  perStep: number,
  perZone: number,
): Cells[] {
  return upTo.map(limit => [
    'weight',
    service,
    `${limit} ${unit}`,
    ...HOME_ZONES.map((_, z) => amount(base + perStep * limit + z * (perZone + perStep * limit * 0.09))),
  ]);
}

/** Zones of other lands: near, across the sea, the rest that is served. */
const ABROAD: [zone: string, days: number, countries: string[]][] = [
  ['N', 4, ['CA', 'MX']],
  [
    'E',
    7,
    ['GB', 'IE', 'DE', 'FR', 'NL', 'BE', 'AT', 'CH', 'DK', 'SE', 'NO', 'FI', 'ES', 'PT', 'IT', 'PL', 'CZ'],
  ],
  ['W', 9, ['JP', 'KR', 'CN', 'AU', 'NZ', 'VN', 'IL', 'AE', 'BR']],
];

function abroad(service: string, faster: number, upTo: number[], base: number, perStep: number): Cells[] {
  return [
    ['prices', service, ...ABROAD.map(([zone]) => zone)],
    ...ABROAD.flatMap(([zone, days, countries]) =>
      countries.map((c): Cells => ['zone', service, zone, c, '', days - faster]),
    ),
    ...upTo.map(
      (limit): Cells => [
        'weight',
        service,
        `${limit} lb`,
        ...ABROAD.map((_, z) => amount((base + perStep * limit) * (1 + z * 0.35))),
      ],
    ),
  ];
}

const HERON: Cells[] = [
  ['sheet', 'Heron Post, house account', 'USD', 'from 2026-01-01'],
  [
    'service',
    'letter',
    'Heron Light',
    'step 1 oz',
    'divisor 166 in/lb',
    'girth up to 84 in',
    'side up to 22 in',
  ],
  ...homeZones('letter', [2, 2, 3, 3, 4, 4, 5, 5, 6]),
  ...weights('letter', 'oz', [4, 8, 12, 16], 310, 14, 12),
  ['service', 'parcel', 'Heron Parcel', 'step 1 lb', 'divisor 166 in/lb', 'girth up to 130 in'],
  ...homeZones('parcel', [2, 2, 2, 3, 3, 3, 4, 4, 6]),
  ...weights('parcel', 'lb', range(70), 590, 62, 38),
  ...range(5).map(
    (t): Cells => [
      'cubic',
      'parcel',
      `${t / 10} cu ft`,
      ...HOME_ZONES.map((_, z) => amount(585 + 88 * t + z * (34 + 9 * t))),
    ],
  ),
  ['surcharge', 'parcel', 'over 84 in length and girth', 'girth over 84 in', '15.00'],
  ['surcharge', 'parcel', 'signature', 'signature', '3.40'],
  ['surcharge', 'parcel', 'declared value', 'value over 100 each 100', '1.25'],
  ['surcharge', 'parcel', 'to a pick-up point', 'point', '-0.60'],
  ['service', 'quick', 'Heron Quick', 'step 1 lb', 'girth up to 108 in'],
  ...homeZones('quick', [1, 1, 1, 1, 2, 2, 2, 2, 3]),
  ...weights('quick', 'lb', range(20), 2450, 190, 160),
  ['surcharge', 'quick', 'over 84 in length and girth', 'girth over 84 in', '22.00'],
  ['surcharge', 'quick', 'signature', 'signature', '3.40'],
  ['surcharge', 'quick', 'Saturday', 'saturday', '12.50'],
  ['surcharge', 'quick', 'declared value', 'value over 100 each 100', '1.25'],
  ['service', 'abroad', 'Heron Abroad', 'step 1 lb', 'girth up to 108 in'],
  ...abroad('abroad', 0, range(44), 1420, 390),
  ['surcharge', 'abroad', 'declared value', 'value over 100 each 100', '2.10'],
];

const REDFEN_EXTRAS: Cells[] = [
  ['surcharge', '*', 'home address', 'home', '1.65'],
  ['surcharge', '*', 'over 105 in length and girth', 'girth over 105 in', '18.50'],
  ['surcharge', '*', 'heavy', 'weight over 50 lb', '24.00'],
  ['surcharge', '*', 'far off', FAR_OFF, '6.20'],
  ['surcharge', '*', 'signature', 'signature', '5.10'],
  ['surcharge', '*', 'declared value', 'value over 100 each 100', '1.40'],
  ['surcharge', '*', 'brought to the counter', 'drop-off', '-0.45'],
  ['surcharge', '*', 'to a pick-up point', 'point', '0.00'],
  ['surcharge', '*', 'paid at the door', 'cash', '9.80'],
];

const redfen = (name: string, from: string, rebate: number): Cells[] => [
  ['sheet', name, 'USD', from],
  [
    'service',
    'ground',
    'Redfen Ground',
    'step 1 lb',
    'divisor 139 in/lb',
    'fuel 6.5 %',
    'girth up to 165 in',
    'side up to 108 in',
  ],
  ...homeZones('ground', [1, 2, 2, 3, 3, 4, 4, 5, 7]),
  ...weights('ground', 'lb', range(150), 662 * rebate, 39 * rebate, 22 * rebate),
  [
    'service',
    'two-day',
    'Redfen Two Day',
    'step 1 lb',
    'divisor 139 in/lb',
    'fuel 6.5 %',
    'girth up to 165 in',
    'side up to 108 in',
  ],
  ...homeZones('two-day', [1, 1, 2, 2, 2, 2, 2, 2, 3]),
  ...weights('two-day', 'lb', range(150), 1390 * rebate, 136 * rebate, 112 * rebate),
  ...REDFEN_EXTRAS,
];

const COLDHARBOUR: Cells[] = [
  ['sheet', 'Coldharbour Express, house account', 'CAD', 'from 2026-01-01'],
  [
    'service',
    'morning',
    'Coldharbour Morning',
    'step 0.5 kg',
    'divisor 5000 cm/kg',
    'fuel 11 %',
    'girth up to 300 cm',
    'side up to 120 cm',
  ],
  ...homeZones('morning', [1, 1, 1, 1, 1, 1, 1, 1, 2]),
  ...weights(
    'morning',
    'kg',
    range(60).map(n => n / 2),
    3150,
    310,
    145,
  ),
  ['surcharge', 'morning', 'Saturday', 'saturday', '21.00'],
  ['surcharge', 'morning', 'signature', 'signature', '0.00'],
  ['surcharge', 'morning', 'declared value', 'value over 250 each 100', '1.90'],
  [
    'service',
    'world',
    'Coldharbour World',
    'step 1 lb',
    'divisor 139 in/lb',
    'fuel 11 %',
    'girth up to 300 cm',
  ],
  ...abroad('world', 2, range(66), 5200, 620),
  ['surcharge', 'world', 'signature', 'signature', '0.00'],
  ['surcharge', 'world', 'declared value', 'value over 250 each 100', '1.90'],
];

const STONEWATER: Cells[] = [
  ['sheet', 'Stonewater Freight, house account', 'USD', 'from 2026-01-01'],
  ['service', 'pallet', 'Stonewater Pallet', 'step 1 lb', 'from 151 lb', 'fuel 14 %', 'least 98.00'],
  ...homeZones('pallet', [2, 2, 3, 3, 4, 5, 5, 6, 9]),
  ...weights(
    'pallet',
    'lb',
    range(15).map(n => n * 100),
    7400,
    11,
    900,
  ),
  ['surcharge', 'pallet', 'home address with a lift', 'home', '85.00'],
];

const cells = (rows: Cells[]): string[][] => rows.map(r => r.map(String));

function account(number: string, rows: Cells[]): DemoAccount {
  const read = readRateSheet(cells(rows));
  if (!read.ok) throw new Error(read.problem.map(b => `row ${b.row}: ${b.why}`).join('; '));
  return { number, rows: cells(rows), sheet: read.value };
}

/** The account of the house, which has no number. */
const house = (rows: Cells[]): DemoAccount[] => [account('', rows)];

const REDFEN_CONTRACT = redfen('Skepside with Redfen 2026', 'from 2026-01-01', 0.97);

/** What Skepside has agreed with Redfen for itself, as the file that its seller sent, and the number of that account. */
export const CONTRACT = {
  carrier: 'redfen',
  number: 'SK-4120',
  name: 'Own contract',
  rows: cells(REDFEN_CONTRACT),
};

export const CARRIERS: DemoCarrier[] = [
  {
    code: 'heron',
    name: 'Heron Post',
    habit: 'plain',
    tracking: 'S10',
    draws: false,
    planUpToMg: 2_267_962,
    accounts: house(HERON),
  },
  {
    code: 'redfen',
    name: 'Redfen Parcel',
    habit: 'xml',
    tracking: 'RF',
    draws: true,
    planUpToMg: 68_038_856,
    accounts: [
      ...house(redfen('Redfen Parcel, house account', 'from 2026-01-01', 1.065)),
      account(CONTRACT.number, REDFEN_CONTRACT),
    ],
  },
  {
    code: 'coldharbour',
    name: 'Coldharbour Express',
    habit: 'keyless',
    tracking: 'CX',
    draws: false,
    planUpToMg: null,
    accounts: house(COLDHARBOUR),
  },
  {
    code: 'stonewater',
    name: 'Stonewater Freight',
    habit: 'freight',
    tracking: 'SW',
    draws: false,
    planUpToMg: null,
    accounts: house(STONEWATER),
  },
];

/** Dollars for one unit of other currencies, as the lead entered them. */
export const EXCHANGE_RATES = [
  { currency: 'CAD', perHouse: 0.72 },
  { currency: 'XDR', perHouse: 1.33 },
  { currency: 'EUR', perHouse: 1.09 },
  { currency: 'GBP', perHouse: 1.28 },
];
