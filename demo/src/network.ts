/** A network of fulfillment centers of the demo: how it is reached, what lies there by the house's own codes, and its rules as data. */
export interface DemoNetwork {
  /** Where its stand-in listens. */
  path: string;
  name: string;
  key: string;
  stock: Readonly<Record<string, number>>;
  /** What it will scan where that is not the house's own code; null where it knows none. */
  scans: Readonly<Record<string, string | null>>;
  /** Centers that take nothing today, with why. */
  full: Readonly<Record<string, string>>;
  rules: Readonly<Record<string, unknown>>;
}

const POUND = 453_592;
const INCH = 254;
const CM = 100;
const KG = 1_000_000;

const site = (
  center: string,
  line1: string,
  city: string,
  region: string,
  postcode: string,
  country: string,
) => ({
  center,
  address: {
    name: `Center ${center}`,
    company: '',
    line1,
    line2: '',
    city,
    region,
    postcode,
    country,
    phone: country === 'US' ? '740-555-0177' : '',
  },
});

/** What units need before they may lie beside those of others: fees and material in minor units, our own work in seconds. */
const PREPARATION = [
  { needs: 'label', when: [], feeMinor: 30, materialMinor: 3, seconds: 9 },
  { needs: 'bag', when: ['liquid', 'powder', 'foldable'], feeMinor: 80, materialMinor: 12, seconds: 20 },
  { needs: 'bubble', when: ['fragile'], feeMinor: 110, materialMinor: 22, seconds: 35 },
  { needs: 'sleeve', when: ['sharp'], feeMinor: null, materialMinor: 18, seconds: 25 },
  { needs: 'hazard papers', when: ['hazardous', 'battery'], feeMinor: null, materialMinor: 0, seconds: 60 },
];

export const FERNWAY: DemoNetwork = {
  path: 'network',
  name: 'Fernway Centers',
  key: 'demo-key-of-fernway',
  stock: { 'VEIL-RND': 40, 'GLV-GT-M': 60, 'BOOK-1ST': 25, 'JAR-HEX-12': 30 },
  scans: { 'JAR-HEX-12': '2000000000183', 'PNT-RED': null },
  full: { Tampa: 'It takes nothing before 4 January.' },
  rules: {
    currency: 'USD',
    units: 'imperial',
    leastShelfDays: 90,
    limits: { mostMg: 50 * POUND, mostSide: 25 * INCH, heavyMg: 33 * POUND },
    pallet: {
      name: '48 x 40 in',
      length: 48 * INCH,
      width: 40 * INCH,
      deck: 6 * INCH,
      weightMg: 45 * POUND,
      mostHeight: 72 * INCH,
      mostWeightMg: 1_500 * POUND,
    },
    takes: ['parcels', 'pallets'],
    feeMinor: { 'one dock': 0, spread: 15 },
    daysToSale: { 'one dock': 8, spread: 2 },
    storageMinor: { near: 4, deep: 2 },
    storageSteps: [
      { afterDays: 180, times: 2 },
      { afterDays: 365, times: 5 },
    ],
    dock: site('Columbus', '900 Alum Reach', 'Columbus', 'OH', '43215', 'US'),
    centers: [
      { ...site('Columbus', '900 Alum Reach', 'Columbus', 'OH', '43215', 'US'), share: 4 },
      { ...site('Reno', '12 Sagebrush Gate', 'Reno', 'NV', '89502', 'US'), share: 3 },
      { ...site('Tampa', '77 Mangrove Row', 'Tampa', 'FL', '33602', 'US'), share: 2 },
      { ...site('Albany', '5 Lock Street', 'Albany', 'NY', '12207', 'US'), share: 1 },
    ],
    preparation: PREPARATION,
    refuses: [{ fact: 'hazardous', why: 'It stores nothing hazardous.' }],
    freight: [
      {
        name: 'Fernway Pick-up',
        form: 'parcels',
        pieceMinor: 420,
        kilogramMinor: 38,
        days: 3,
        homeMinor: 450,
        hardMinor: 900,
        bringTo: 'any Fernway counter',
      },
      {
        name: 'Fernway Pallet',
        form: 'pallets',
        pieceMinor: 11_800,
        kilogramMinor: 9,
        days: 5,
        fetchMinor: 2_500,
        homeMinor: 6_500,
        hardMinor: 8_000,
        bringTo: 'Fernway yard, 12 Foundry Road, Zanesville',
      },
    ],
    freeHours: 24,
  },
};

/** It measures in centimetres and kilograms, charges in euros, and takes one dock alone. */
export const NORDHAVN: DemoNetwork = {
  path: 'nordhavn',
  name: 'Nordhavn Lager',
  key: 'demo-key-of-nordhavn',
  stock: {},
  scans: {},
  full: {},
  rules: {
    currency: 'EUR',
    units: 'metric',
    leastShelfDays: 120,
    limits: { mostMg: 15 * KG, mostSide: 60 * CM, heavyMg: 12 * KG },
    pallet: {
      name: '120 x 80 cm',
      length: 120 * CM,
      width: 80 * CM,
      deck: 14.4 * CM,
      weightMg: 25 * KG,
      mostHeight: 180 * CM,
      mostWeightMg: 700 * KG,
    },
    takes: ['parcels', 'pallets'],
    feeMinor: { 'one dock': 10, spread: null },
    daysToSale: { 'one dock': 5, spread: 5 },
    storageMinor: { near: 3, deep: 3 },
    dock: site('Nordhavn', 'Kajen 4', 'Nordhavn', '', '2150', 'DK'),
    centers: [{ ...site('Nordhavn', 'Kajen 4', 'Nordhavn', '', '2150', 'DK'), share: 1 }],
    preparation: PREPARATION.filter(p => p.needs !== 'label'),
    refuses: [
      { fact: 'hazardous', why: 'It stores nothing hazardous.' },
      { fact: 'battery', why: 'It stores no batteries.' },
    ],
    freight: [{ name: 'Nordhavn Fragt', form: 'parcels', pieceMinor: 3_900, kilogramMinor: 410, days: 9 }],
    freeHours: 12,
  },
};

export const NETWORKS: readonly DemoNetwork[] = [FERNWAY, NORDHAVN];
/** Digits of the demo company's own shipping units; of a range that is nobody's. */
export const COMPANY_PREFIX = '952000112';
