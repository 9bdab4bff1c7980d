import { gs1CheckDigit } from '@auk/core';

/** A product of the demo company. Weight in pounds, size in inches, price in dollars. `parts` makes it a kit or bundle. */
export interface DemoProduct {
  sku: string;
  name: string;
  kind: 'piece' | 'kit' | 'bundle';
  lb: number;
  inches: [number, number, number];
  dollars: number;
  picture: string;
  hint: string | null;
  caseOf: number | null;
  gtin: string;
  parts: [sku: string, quantity: number][];
  facts: {
    category?: string;
    fragile?: boolean;
    sharp?: boolean;
    liquid?: boolean;
    lots?: boolean;
    expiry?: boolean;
    leastStock?: number;
    serials?: boolean;
    serialForm?: string;
    warning?: string;
    optional?: boolean;
    upright?: boolean;
    foldable?: boolean;
    hazardous?: boolean;
    customsCode?: string;
    customsWords?: string;
    unNumber?: string;
    hazardClass?: string;
    hazardName?: string;
    supplier?: boolean;
    supplierName?: string;
    supplierCode?: string;
    supplierMinor?: number;
  };
}

type Line = [
  sku: string,
  name: string,
  lb: number,
  inches: [number, number, number],
  dollars: number,
  picture: string,
  hint?: string,
  caseOf?: number,
];

const PIECES: Line[] = [
  ['HVB-DP-F', 'Deep hive body, pine, flat', 9.5, [20, 10, 3.5], 32, 'hive', 'flat, not nailed'],
  ['HVB-DP-A', 'Deep hive body, pine, nailed', 10.2, [20, 16.5, 9.7], 44, 'hive'],
  ['HVB-MD-F', 'Medium hive body, pine, flat', 7.1, [20, 7, 3.5], 26, 'hive', 'flat, not nailed'],
  ['HVB-MD-A', 'Medium hive body, pine, nailed', 7.6, [20, 16.5, 6.7], 36, 'hive'],
  ['HVB-DC-F', 'Deep hive body, cedar, flat', 8.4, [20, 10, 3.5], 49, 'hive', 'red wood'],
  ['LID-TEL', 'Telescoping lid with metal', 7.4, [22, 18, 4], 31, 'lid'],
  ['LID-INN', 'Inner lid with vent', 3.1, [20, 16.5, 1], 14, 'lid'],
  ['LID-MIG', 'Migratory lid, plywood', 4.2, [20, 16.5, 1], 13, 'lid'],
  ['FLR-SLD', 'Solid floor', 5.8, [22, 16.5, 2], 17, 'lid'],
  ['FLR-SCR', 'Screened floor with slide', 6.3, [22, 16.5, 2.2], 27, 'lid'],
  [
    'FRM-DP-A',
    'Frame, deep, pine, assembled',
    0.62,
    [19, 9.2, 1.4],
    3.4,
    'frame',
    'not the medium: 23 cm high',
    10,
  ],
  ['FRM-DP-F', 'Frame, deep, pine, flat', 0.55, [19, 2.4, 1.2], 1.9, 'frame', 'in four pieces', 50],
  [
    'FRM-MD-A',
    'Frame, medium, pine, assembled',
    0.5,
    [19, 6.3, 1.4],
    3.2,
    'frame',
    'not the deep: 16 cm high',
    10,
  ],
  ['FRM-MD-F', 'Frame, medium, pine, flat', 0.44, [19, 2.4, 1.2], 1.8, 'frame', 'in four pieces', 50],
  [
    'FND-DP-W',
    'Foundation, deep, wired wax',
    0.11,
    [16.8, 8.5, 0.2],
    2.6,
    'sheet',
    'fragile in the cold',
    10,
  ],
  ['FND-DP-P', 'Foundation, deep, waxed plastic, black', 0.28, [16.8, 8.5, 0.2], 2.3, 'sheet', 'black', 10],
  [
    'FND-MD-W',
    'Foundation, medium, wired wax',
    0.09,
    [16.8, 5.6, 0.2],
    2.2,
    'sheet',
    'fragile in the cold',
    10,
  ],
  ['FND-MD-P', 'Foundation, medium, waxed plastic, black', 0.2, [16.8, 5.6, 0.2], 1.9, 'sheet', 'black', 10],
  ['QEX-MTL', 'Queen excluder, metal', 1.9, [20, 16.5, 0.4], 15, 'grid'],
  ['QEX-PLS', 'Queen excluder, plastic', 0.6, [20, 16.5, 0.2], 6, 'grid'],
  ['ENT-RED', 'Entrance reducer', 0.2, [14.6, 0.8, 0.8], 2.5, 'tool'],
  ['MSE-GRD', 'Mouse guard, steel', 0.3, [15, 2, 0.2], 5, 'grid'],
  ['SMK-4-ST', 'Smoker, 4 in, steel', 1.6, [10, 7, 5], 38, 'smoker'],
  ['SMK-7-ST', 'Smoker, 7 in, steel', 2.4, [13, 8, 5], 46, 'smoker'],
  ['SMK-FUEL', 'Smoker fuel, cotton, 2 lb', 2.1, [10, 8, 4], 9, 'packet'],
  ['SMK-PEL', 'Smoker pellets, 5 lb', 5.1, [12, 8, 3], 17, 'packet'],
  ['HTL-J10', 'Hive tool, J-hook, 10 in', 0.55, [10, 2, 0.5], 12, 'tool', 'sharp: tip cover on'],
  ['HTL-S10', 'Hive tool, standard, 10 in', 0.6, [10, 2, 0.3], 10, 'tool', 'sharp: tip cover on'],
  ['HTL-S07', 'Hive tool, standard, 7 in', 0.4, [7, 1.6, 0.3], 8, 'tool', 'sharp: tip cover on'],
  ['BRS-BEE', 'Bee brush, soft', 0.2, [14, 2.6, 1], 7, 'tool'],
  ['FRM-GRP', 'Frame grip', 0.7, [9, 5, 2], 16, 'tool'],
  ['FRM-PRC', 'Frame perch', 1.3, [19, 8, 3], 21, 'tool'],
  ['JAR-HEX-12', 'Honey jar, hex, 12 oz', 0.42, [2.7, 2.7, 4.6], 1.35, 'jar', 'fragile, upright', 12],
  ['JAR-HEX-09', 'Honey jar, hex, 9 oz', 0.36, [2.5, 2.5, 4.1], 1.2, 'jar', 'fragile, not the 12 oz', 12],
  ['JAR-MUT-16', 'Honey jar, round, 16 oz', 0.55, [3.1, 3.1, 5.2], 1.5, 'jar', 'fragile, upright', 12],
  ['JAR-MUT-08', 'Honey jar, round, 8 oz', 0.33, [2.6, 2.6, 3.6], 1.15, 'jar', 'fragile, upright', 12],
  ['JAR-BEAR-12', 'Squeeze bear, 12 oz', 0.08, [2.8, 2.4, 6.2], 0.85, 'jar', undefined, 24],
  ['JAR-COMB', 'Cut comb box, clear', 0.09, [4.3, 4.3, 1.5], 0.95, 'box', undefined, 24],
  ['LIDS-58-G', 'Jar lids, 58 mm, gold, 12 pack', 0.3, [6, 4, 2], 5, 'packet'],
  ['LIDS-58-B', 'Jar lids, 58 mm, black, 12 pack', 0.3, [6, 4, 2], 5, 'packet', 'black, not gold'],
  ['LBL-HNY-100', 'Honey labels, roll of 100', 0.35, [4, 4, 3], 14, 'packet'],
  ['LBL-TMP-250', 'Tamper strips, roll of 250', 0.3, [3, 3, 3], 11, 'packet'],
  ['FDR-TOP-10', 'Top feeder, 10 frame', 4.4, [20, 16.5, 4], 29, 'box'],
  ['FDR-ENT', 'Entrance feeder with cap', 0.4, [7, 5, 4], 6, 'box'],
  ['FDR-FRM', 'Frame feeder, 1 gal', 1.1, [19, 9.5, 2.6], 11, 'box'],
  ['FDR-PAIL', 'Pail feeder, 1 gal', 0.8, [7.5, 7.5, 8], 9, 'bucket'],
  ['SYR-1GL', 'Sugar syrup, 1 gal', 11.1, [7, 6, 12], 19, 'bottle', 'liquid, upright'],
  ['SYR-2GL', 'Sugar syrup, 2.5 gal', 27.6, [10, 9, 14], 42, 'bottle', 'liquid, two hands'],
  ['PTY-POL-1', 'Pollen patty, 1 lb', 1.05, [8, 6, 0.6], 4.5, 'packet'],
  ['PTY-POL-10', 'Pollen patty, 10 lb box', 10.4, [12, 9, 6], 36, 'box'],
  ['PTY-SUG-1', 'Winter sugar patty', 1.1, [8, 6, 0.7], 4, 'packet'],
  ['FOND-5', 'Fondant, 5 lb', 5.2, [9, 7, 3], 18, 'packet'],
  ['MIT-STR-10', 'Mite strips, 10 pack', 0.3, [10, 4, 0.6], 29, 'packet', 'lot and expiry on the back'],
  ['MIT-STR-50', 'Mite strips, 50 pack', 1.2, [10, 5, 2.5], 118, 'packet', 'not the 10 pack'],
  ['MIT-OXA-35', 'Mite crystals, 35 g', 0.1, [5, 4, 1], 16, 'packet', 'hazardous'],
  ['MIT-BRD', 'Sticky board, 5 pack', 0.9, [18, 13, 0.4], 13, 'sheet'],
  ['BTL-TRP', 'Beetle trap, reusable', 0.1, [6, 3, 1], 5, 'box'],
  ['WAX-MTH', 'Moth crystals, 1 lb', 1.05, [5, 4, 4], 12, 'bottle', 'hazardous'],
  ['KNF-EL-10', 'Uncapping knife, electric', 1.7, [17, 4, 3], 98, 'knife', 'serial number on the handle'],
  ['KNF-SER-12', 'Uncapping knife, serrated', 0.6, [18, 3, 1], 27, 'knife', 'sharp: sheath on'],
  ['FRK-UNC', 'Uncapping fork', 0.3, [9, 3, 1.4], 9, 'knife', 'sharp'],
  ['STR-DBL', 'Honey strainer, double', 1.2, [10, 10, 4], 33, 'grid'],
  ['STR-600', 'Honey strainer, fine, 600', 0.4, [14, 14, 1], 12, 'grid'],
  ['BKT-5G', 'Bucket, 5 gal', 2.2, [12, 12, 14.6], 9, 'bucket'],
  ['BKT-5G-GT', 'Bucket, 5 gal, with gate', 2.6, [13, 12, 14.6], 21, 'bucket', 'with the gate'],
  ['BKT-LID', 'Bucket lid', 0.6, [12.2, 12.2, 1], 3, 'lid'],
  ['GTE-HNY', 'Honey gate, 1.5 in', 0.3, [5, 4, 3], 11, 'tool'],
  ['SCL-HV', 'Hive scale, wireless', 4.9, [18, 14, 3], 159, 'box', 'serial number under the plate'],
  ['RFR-HND', 'Honey refractometer', 0.7, [8, 3, 2.4], 34, 'tool'],
  ['EXT-2', 'Extractor, 2 frame, hand', 24, [18, 18, 26], 189, 'bucket', 'two hands'],
  ['WAX-1LB', 'Beeswax, 1 lb bar', 1.0, [6, 3, 2], 13, 'box'],
  ['WAX-SHT-10', 'Beeswax sheets, 10', 1.4, [17, 8.5, 0.6], 24, 'sheet'],
  ['WCK-COT', 'Candle wick, cotton, 50 ft', 0.2, [3, 3, 2], 6, 'packet'],
  ['MLD-SKEP', 'Candle mould, skep', 0.5, [4, 4, 5], 22, 'box'],
  ['MLD-TAP', 'Candle mould, taper pair', 0.5, [11, 3, 2], 24, 'box'],
  ['VEIL-RND', 'Veil, round', 0.6, [14, 14, 3], 22, 'suit'],
  ['VEIL-SQF', 'Veil, folding square', 0.7, [12, 10, 3], 26, 'suit'],
  ['HAT-STR', 'Straw hat', 0.5, [15, 14, 5], 15, 'suit'],
  ['QCG-PLS', 'Queen cage, plastic', 0.03, [3, 1, 0.8], 1.2, 'box', undefined, 25],
  ['QPN-BLU', 'Queen marking pen, blue', 0.05, [5.5, 0.6, 0.6], 6, 'pen-blue', 'blue'],
  ['QPN-WHT', 'Queen marking pen, white', 0.05, [5.5, 0.6, 0.6], 6, 'pen-white', 'white'],
  ['QPN-YEL', 'Queen marking pen, yellow', 0.05, [5.5, 0.6, 0.6], 6, 'pen-yellow', 'yellow'],
  ['QTB-MRK', 'Queen marking tube', 0.06, [5, 1.6, 1.6], 5, 'pen'],
  ['GRF-TOOL', 'Grafting tool', 0.04, [6, 0.5, 0.5], 4, 'pen'],
  ['NUC-5-DP', 'Nucleus box, 5 frame', 6.8, [21, 9.5, 12], 34, 'hive'],
  ['NUC-CRD', 'Nucleus box, cardboard', 1.4, [21, 12, 2], 12, 'box', 'folds flat'],
  ['SED-PHA', 'Seed packet, phacelia', 0.03, [4.5, 3.2, 0.1], 2.5, 'seeds'],
  ['SED-CLO', 'Seed packet, clover', 0.04, [4.5, 3.2, 0.1], 2.5, 'seeds', 'clover, not phacelia'],
  ['SED-BOR', 'Seed packet, borage', 0.03, [4.5, 3.2, 0.1], 2.5, 'seeds'],
  ['BOOK-1ST', 'First year with bees, book', 1.1, [9, 6, 0.8], 24, 'book'],
  ['BOOK-LOG', 'Hive log book', 0.5, [8, 5.5, 0.5], 11, 'book'],
  ['NAIL-7D', 'Hive nails, 1 lb', 1.0, [4, 3, 3], 7, 'packet'],
  ['GLU-8', 'Wood glue, 8 oz', 0.6, [7, 3, 2], 6, 'bottle'],
  ['PNT-QT-W', 'Hive paint, white, 1 qt', 2.9, [4.5, 4.5, 5], 19, 'bucket'],
];

const SIZES = ['S', 'M', 'L', 'XL'] as const;
const SIZED: Line[] = SIZES.flatMap((s, i): Line[] => [
  [`GLV-${s}`, `Gloves, goatskin, ${s}`, 0.5 + i * 0.03, [15, 6, 1], 24, 'glove', `size ${s}`],
  [`SUIT-${s}`, `Bee suit, cotton, ${s}`, 2.6 + i * 0.2, [16, 13, 4], 79, 'suit', `size ${s}`],
]);

const BOTTLED: Line[] = [
  ['JKT-M', 'Bee jacket, M', 1.7, [15, 12, 3], 56, 'suit', 'size M'],
  ['JKT-L', 'Bee jacket, L', 1.8, [15, 12, 3], 56, 'suit', 'size L'],
];

type Made = [
  sku: string,
  name: string,
  lb: number,
  inches: [number, number, number],
  dollars: number,
  picture: string,
  parts: [string, number][],
];

/** Made ahead, with stock and a code of their own. */
const KITS: Made[] = [
  [
    'KIT-START',
    'Starter hive, nailed',
    37,
    [22, 18, 20],
    189,
    'hive',
    [
      ['HVB-DP-A', 1],
      ['LID-TEL', 1],
      ['FLR-SCR', 1],
      ['FRM-DP-A', 10],
      ['FND-DP-W', 10],
    ],
  ],
  [
    'KIT-SUPER',
    'Honey super, nailed, with frames',
    15,
    [20, 16.5, 6.8],
    79,
    'hive',
    [
      ['HVB-MD-A', 1],
      ['FRM-MD-A', 10],
      ['FND-MD-W', 10],
    ],
  ],
  [
    'KIT-NUC',
    'Nucleus hive with frames',
    11,
    [21, 9.5, 12],
    62,
    'hive',
    [
      ['NUC-5-DP', 1],
      ['FRM-DP-A', 5],
      ['FND-DP-W', 5],
    ],
  ],
  [
    'KIT-TOOLS',
    'Tool pouch',
    2.1,
    [14, 6, 4],
    42,
    'tool',
    [
      ['HTL-J10', 1],
      ['BRS-BEE', 1],
      ['FRM-GRP', 1],
    ],
  ],
  [
    'KIT-SMK',
    'Smoker and fuel',
    3.9,
    [13, 9, 8],
    45,
    'smoker',
    [
      ['SMK-4-ST', 1],
      ['SMK-FUEL', 1],
    ],
  ],
  [
    'KIT-FEED',
    'Spring feeding kit',
    12.4,
    [12, 9, 13],
    29,
    'box',
    [
      ['FDR-ENT', 1],
      ['SYR-1GL', 1],
      ['PTY-POL-1', 1],
    ],
  ],
  [
    'KIT-QMARK',
    'Queen marking kit',
    0.2,
    [7, 5, 2],
    20,
    'pen',
    [
      ['QPN-BLU', 1],
      ['QPN-WHT', 1],
      ['QTB-MRK', 1],
      ['QCG-PLS', 2],
    ],
  ],
  [
    'KIT-MITE',
    'Mite check kit',
    1.5,
    [18, 13, 2],
    52,
    'packet',
    [
      ['MIT-STR-10', 1],
      ['MIT-BRD', 1],
    ],
  ],
  [
    'KIT-CNDL',
    'Candle maker',
    2.4,
    [11, 8, 6],
    61,
    'box',
    [
      ['WAX-1LB', 1],
      ['WCK-COT', 1],
      ['MLD-SKEP', 1],
    ],
  ],
  [
    'KIT-NAIL',
    'Assembly kit',
    1.7,
    [8, 5, 4],
    12,
    'packet',
    [
      ['NAIL-7D', 1],
      ['GLU-8', 1],
    ],
  ],
  [
    'KIT-JAR24',
    'Jar crate, 24 hex, 12 oz',
    11.2,
    [17, 12, 6],
    36,
    'jar',
    [
      ['JAR-HEX-12', 24],
      ['LIDS-58-G', 2],
    ],
  ],
  [
    'KIT-GARDEN',
    'Bee garden, three seeds',
    0.1,
    [5, 4, 0.5],
    7,
    'seeds',
    [
      ['SED-PHA', 1],
      ['SED-CLO', 1],
      ['SED-BOR', 1],
    ],
  ],
];

/** Gathered at picking, no stock of their own. */
const BUNDLES: Made[] = [
  [
    'SET-HARV',
    'Harvest set',
    0,
    [1, 1, 1],
    92,
    'bucket',
    [
      ['KNF-SER-12', 1],
      ['STR-DBL', 1],
      ['BKT-5G-GT', 1],
      ['JAR-HEX-12', 24],
    ],
  ],
  [
    'SET-SAFE-M',
    'Safe start, M',
    0,
    [1, 1, 1],
    109,
    'suit',
    [
      ['SUIT-M', 1],
      ['GLV-M', 1],
      ['HTL-J10', 1],
    ],
  ],
  [
    'SET-SAFE-L',
    'Safe start, L',
    0,
    [1, 1, 1],
    109,
    'suit',
    [
      ['SUIT-L', 1],
      ['GLV-L', 1],
      ['HTL-J10', 1],
    ],
  ],
  [
    'SET-JAR12-9',
    'Dozen hex jars, 9 oz, with lids',
    0,
    [1, 1, 1],
    18,
    'jar',
    [
      ['JAR-HEX-09', 12],
      ['LIDS-58-B', 1],
    ],
  ],
  [
    'SET-JAR12-16',
    'Dozen round jars, 16 oz, with lids',
    0,
    [1, 1, 1],
    21,
    'jar',
    [
      ['JAR-MUT-16', 12],
      ['LIDS-58-G', 1],
    ],
  ],
  [
    'SET-SMKHTL',
    'Smoker and hive tool',
    0,
    [1, 1, 1],
    46,
    'smoker',
    [
      ['SMK-4-ST', 1],
      ['HTL-S10', 1],
    ],
  ],
  [
    'SET-WINTER',
    'Winter set',
    0,
    [1, 1, 1],
    28,
    'packet',
    [
      ['MSE-GRD', 1],
      ['ENT-RED', 1],
      ['FOND-5', 1],
    ],
  ],
  [
    'SET-READ',
    'Reader’s pair',
    0,
    [1, 1, 1],
    32,
    'book',
    [
      ['BOOK-1ST', 1],
      ['BOOK-LOG', 1],
    ],
  ],
  [
    'SET-FRM10',
    'Ten deep frames with wax',
    0,
    [1, 1, 1],
    56,
    'frame',
    [
      ['FRM-DP-A', 10],
      ['FND-DP-W', 10],
    ],
  ],
  // Holds another bundle: two levels of parts.
  [
    'SET-YEAR',
    'First year set',
    0,
    [1, 1, 1],
    399,
    'hive',
    [
      ['KIT-START', 1],
      ['SET-SMKHTL', 1],
      ['SET-READ', 1],
      ['VEIL-RND', 1],
    ],
  ],
];

/** Kept in lots that expire. */
const LOTTED = new Set(['MIT-STR-10', 'MIT-STR-50', 'MIT-OXA-35']);

/** What the bench asks of some products, and how some of them may lie. */
const ASKED: Record<string, DemoProduct['facts']> = {
  'SCL-HV': { serials: true, serialForm: 'HS-999999' },
  'KNF-EL-10': { serials: true, warning: 'Its blade must be in the sleeve.' },
  'MIT-STR-10': { warning: 'Its leaflet must go along.' },
  'MIT-OXA-35': {
    hazardous: true,
    customsCode: '291711',
    customsWords: 'Oxalic acid crystals',
    unNumber: 'UN 3261',
    hazardClass: '8',
    hazardName: 'Corrosive solid, acidic, organic, n.o.s. (oxalic acid)',
  },
  'WAX-MTH': {
    hazardous: true,
    customsCode: '380891',
    customsWords: 'Moth crystals',
    unNumber: 'UN 3077',
    hazardClass: '9',
    hazardName: 'Environmentally hazardous substance, solid, n.o.s.',
  },
  'SED-BOR': { optional: true },
  'EXT-2': {
    supplier: true,
    supplierName: 'Muskingum Foundry',
    supplierCode: 'MF-2H',
    supplierMinor: 14_200,
  },
  'JKT-M': { foldable: true },
  'JKT-L': { foldable: true },
  'SYR-1GL': { upright: true },
  'SYR-2GL': { upright: true },
};

/** Products that nobody has given a category yet. */
const UNSORTED = new Set(['MSE-GRD', 'PNT-QT-W', 'LIDS-58-B']);
/** A GTIN-13 of the range kept for use within one house (20 to 29), so that it is nobody's. */
function houseGtin(index: number): string {
  const body = `20${String(index + 1).padStart(10, '0')}`;
  return body + gs1CheckDigit(body);
}

function piece([sku, name, lb, inches, dollars, picture, hint, caseOf]: Line): Omit<DemoProduct, 'gtin'> {
  const facts = {
    ...(!UNSORTED.has(sku) && { category: picture }),
    ...(hint?.includes('fragile') && { fragile: true }),
    ...(hint?.includes('sharp') && { sharp: true }),
    ...(hint?.includes('liquid') && { liquid: true }),
    ...(LOTTED.has(sku) && { lots: true, expiry: true }),
    ...ASKED[sku],
  };
  return {
    sku,
    name,
    kind: 'piece',
    lb,
    inches,
    dollars,
    picture,
    hint: hint ?? null,
    caseOf: caseOf ?? null,
    parts: [],
    facts,
  };
}

const made =
  (kind: 'kit' | 'bundle') =>
  ([sku, name, lb, inches, dollars, picture, parts]: Made): Omit<DemoProduct, 'gtin'> => ({
    sku,
    name,
    kind,
    lb,
    inches,
    dollars,
    picture,
    hint: null,
    caseOf: null,
    parts,
    facts: { category: picture, ...(kind === 'kit' && { leastStock: 6 }) },
  });

/** Everything Skepside Bee Supply sells. */
export const CATALOGUE: DemoProduct[] = [
  ...[...PIECES, ...SIZED, ...BOTTLED].map(piece),
  ...KITS.map(made('kit')),
  ...BUNDLES.map(made('bundle')),
].map((p, i) => ({ ...p, gtin: houseGtin(i) }));
