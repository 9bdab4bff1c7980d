import { type Address, evenLayout, lettersOf, wallCells } from '@auk/core';

const SENDER: Address = {
  name: 'Skepside Bee Supply',
  company: '',
  line1: '4120 Muskingum Works Road',
  line2: '',
  city: 'Zanesville',
  region: 'OH',
  postcode: '43701',
  country: 'US',
  phone: '740-555-0123',
};
const sender = (name: string): Address => ({ ...SENDER, name });

export const WAREHOUSE = {
  code: 'ZAN',
  name: 'Skepside, Zanesville',
  zone: 'America/New_York',
  currency: 'USD',
  postcode: '43701',
  country: 'US',
  sender: SENDER,
};

/** Eight aisles of twelve bays on each side, three levels; a bay is 1.2 m wide, aisles stand 4 m apart. Tenths of a millimetre. */
const SHELVES = { aisles: 8, bays: 12, levels: 3, bayWidth: 12_000 };

/** One block, walked from the front of aisle A and back there. */
export const LAYOUT = evenLayout({
  aisles: SHELVES.aisles,
  length: SHELVES.bays * SHELVES.bayWidth + 20_000,
  pitch: 40_000,
});

/** The topmost level holds reserve. */
export const RESERVE_LEVEL = SHELVES.levels;

export interface DemoPlace {
  code: string;
  aisle: number;
  along: number;
  level: number;
  side: 'left' | 'right';
  zone: string;
  bay: number;
}

/** All bins: A-01-1 to H-12-3; odd bays on the left, even ones on the right. The top level is reserve. */
export const BINS: DemoPlace[] = Array.from({ length: SHELVES.aisles }, (_, aisle) =>
  Array.from({ length: SHELVES.bays }, (_, bay) =>
    Array.from(
      { length: SHELVES.levels },
      (_, level): DemoPlace => ({
        code: `${lettersOf(aisle)}-${String(bay + 1).padStart(2, '0')}-${level + 1}`,
        aisle,
        along: 10_000 + bay * SHELVES.bayWidth + SHELVES.bayWidth / 2,
        level: level + 1,
        side: bay % 2 === 0 ? 'left' : 'right',
        zone: aisle < 5 ? 'Shelves' : 'Bulk',
        bay: bay + 1,
      }),
    ),
  ).flat(),
).flat();

/** Totes with a code and a mark that is read from afar: a letter and a number. */
export const TOTES = Array.from({ length: 120 }, (_, i) => ({
  code: `TO-${String(i + 1).padStart(3, '0')}`,
  mark: `${'ABCDEFGHJKLM'[i % 12]}${Math.floor(i / 12) + 1}`,
  colour: i % 2 === 0 ? 'grey' : 'blue',
}));

/** Places that are no bins: benches, the way out, and the outside. */
export const OTHER_PLACES = [
  { code: 'BE-1', kind: 'bench' },
  { code: 'BE-2', kind: 'bench' },
  { code: 'STAGE-1', kind: 'staging' },
  { code: 'STAGE-2', kind: 'staging' },
  ...['T1', 'T2', 'T3', 'T4'].map((mark, i) => ({ code: `TR-00${i + 1}`, kind: 'trolley', mark })),
  ...wallCells('A', 3, 4).map(({ code, mark, row, column }) => ({
    code,
    kind: 'cell',
    mark,
    zone: 'A',
    level: row,
    bay: column,
  })),
  { code: 'DOCK-1', kind: 'dock', aisle: 0, along: 0, zone: 'Dock' },
  { code: 'QUARANTINE', kind: 'quarantine' },
  { code: 'MADE', kind: 'made' },
  { code: 'MISSING', kind: 'missing' },
  { code: 'GONE', kind: 'gone' },
  { code: 'OUTSIDE', kind: 'outside' },
];

export const CHANNELS = [
  {
    code: 'web',
    kind: 'cursor',
    name: 'Web store',
    brand: 'Skepside Bee Supply',
    prefix: 'WS',
    sender: sender('Skepside Bee Supply'),
    skuPrefix: '',
  },
  {
    code: 'fernway',
    kind: 'since',
    name: 'Fernway Market',
    brand: 'Skepside on Fernway',
    prefix: 'FM',
    sender: sender('Skepside on Fernway'),
    skuPrefix: 'FM-',
  },
  {
    code: 'plaza',
    kind: 'whole',
    name: 'Plaza Nine',
    brand: 'Skepside Bees',
    prefix: 'PN',
    sender: sender('Skepside Bees'),
    skuPrefix: 'P9-',
  },
  {
    code: 'loom',
    kind: 'each',
    name: 'Loomstreet',
    brand: 'Skepside Crafts',
    prefix: 'LS',
    sender: sender('Skepside Crafts'),
    skuPrefix: 'LS-',
  },
];

/** The people of the demo; every PIN is 2468. */
export const PEOPLE = [
  { badge: 'AB-1001', name: 'Ines Maddow', role: 'lead' },
  { badge: 'AB-1002', name: 'Tomas Brandt', role: 'packer' },
  { badge: 'AB-1003', name: 'Wren Okoye', role: 'picker' },
  { badge: 'AB-1004', name: 'Odile Marsh', role: 'office' },
  { badge: 'AB-1005', name: 'Abel Quist', role: 'admin' },
  { badge: 'AB-1006', name: 'Mika Solberg', role: 'packer' },
] as const;
export const DEMO_PIN = '2468';

const inch = (a: number, b: number, c: number) => ({
  length: Math.round(a * 254),
  width: Math.round(b * 254),
  height: Math.round(c * 254),
});
const lb = (n: number) => Math.round(n * 453_592.37);

/** Printers of the demo: stand-ins, two for labels and one for papers. */
export const PRINTERS = [
  { code: 'labels-1', name: 'Labels, bench 1' },
  { code: 'labels-2', name: 'Labels, bench 2' },
  { code: 'papers', name: 'Papers' },
] as const;

/** Benches of the demo, each with its printers. */
export const BENCHES = [
  { code: 'BE-1', name: 'Bench 1', label: 'labels-1', slip: 'papers', scale: false },
  { code: 'BE-2', name: 'Bench 2', label: 'labels-2', slip: 'papers', scale: true },
] as const;

export const BOXES = [
  { code: 'BX-1', name: 'B1', ...inch(9, 6, 2), tareMg: lb(0.15), limitMg: lb(5), priceMinor: 32 },
  { code: 'BX-2', name: 'B2', ...inch(12, 9, 4), tareMg: lb(0.3), limitMg: lb(15), priceMinor: 55 },
  { code: 'BX-3', name: 'B3', ...inch(18, 13, 5), tareMg: lb(0.6), limitMg: lb(30), priceMinor: 92 },
  { code: 'BX-4', name: 'B4', ...inch(20, 12, 12), tareMg: lb(0.9), limitMg: lb(45), priceMinor: 140 },
  { code: 'BX-5', name: 'B5', ...inch(23, 18, 18), tareMg: lb(1.6), limitMg: lb(65), priceMinor: 235 },
  { code: 'BX-6', name: 'B6', ...inch(28, 24, 24), tareMg: lb(2.4), limitMg: lb(90), priceMinor: 410 },
];

export const TIMETABLE = [
  {
    carrier: 'heron',
    carrierName: 'Heron Post',
    name: 'letters and small parcels',
    cutOff: '13:30',
    services: ['letter', 'parcel', 'quick'],
    freight: false,
  },
  {
    carrier: 'redfen',
    carrierName: 'Redfen Parcel',
    name: 'ground and two day',
    cutOff: '15:30',
    services: ['ground', 'two-day'],
    freight: false,
  },
  {
    carrier: 'heron',
    carrierName: 'Heron Post',
    name: 'second collection',
    cutOff: '17:30',
    services: ['letter', 'parcel', 'quick'],
    freight: false,
  },
  {
    carrier: 'redfen',
    carrierName: 'Redfen Parcel',
    name: 'evening collection',
    cutOff: '19:30',
    services: ['ground', 'two-day'],
    freight: false,
  },
  {
    carrier: 'coldharbour',
    carrierName: 'Coldharbour Express',
    name: 'overnight',
    cutOff: '18:30',
    services: ['morning', 'world'],
    freight: false,
  },
  {
    carrier: 'stonewater',
    carrierName: 'Stonewater Freight',
    name: '2 pallets to Fernway, Columbus',
    cutOff: '20:00',
    services: [],
    freight: true,
  },
];
