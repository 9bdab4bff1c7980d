import { CATALOGUE } from './catalogue.js';

/** A listing of a channel that no product is linked to at first. */
export interface DemoListing {
  channel: string;
  sku: string;
  title: string;
  gtin: string;
  minor: number;
}

const gtinOf = (sku: string): string => CATALOGUE.find(p => p.sku === sku)?.gtin ?? '';

/** Listings that wait for a person: some have a barcode, some only a likeness, some are new to the house. */
export const UNLINKED: DemoListing[] = [
  {
    channel: 'fernway',
    sku: 'FM-HVB-DEEP-2',
    title: 'Deep hive body, pair, unassembled',
    gtin: '',
    minor: 9600,
  },
  {
    channel: 'fernway',
    sku: 'FM-SMOKER-4',
    title: 'Bee smoker 4 in steel',
    gtin: gtinOf('SMK-4-ST'),
    minor: 3900,
  },
  {
    channel: 'fernway',
    sku: 'FM-JARS-12OZ-12',
    title: 'Honey jars hex 12 oz, 12 pack',
    gtin: '',
    minor: 1890,
  },
  {
    channel: 'plaza',
    sku: 'P9-88120',
    title: 'Hive tool with J-hook, 10 in',
    gtin: gtinOf('HTL-J10'),
    minor: 1290,
  },
  { channel: 'plaza', sku: 'P9-88121', title: 'Queen excluder, metal grid', gtin: '', minor: 1590 },
  { channel: 'loom', sku: 'LS-WAX-PENDANT', title: 'Beeswax pendant, hand poured', gtin: '', minor: 2400 },
  {
    channel: 'loom',
    sku: 'LS-CANDLE-MLD',
    title: 'Candle mould, skep shape',
    gtin: '4006381333931',
    minor: 1850,
  },
  {
    channel: 'web',
    sku: 'MIT-STRIPS-10',
    title: 'Mite strips, 10 pack',
    gtin: gtinOf('MIT-STR-10'),
    minor: 2900,
  },
];
