import type { Address, ReceivedOrder } from '@auk/core';
import { seeded } from '@auk/core';
import { CATALOGUE, type DemoProduct } from './catalogue.js';
import { CHANNELS } from './company.js';
import { pick } from './random.js';

const FIRST = [
  'Marguerite',
  'Deshawn',
  'Annelie',
  'Ruth',
  'Ottoline',
  'Per',
  'Ilya',
  'Noor',
  'Calla',
  'Benedikt',
  'Suri',
  'Fenn',
  'Amadou',
  'Greta',
  'Lucian',
  'Opal',
  'Henrike',
  'Tobin',
  'Yara',
  'Magnus',
  'Delia',
  'Kofi',
  'Ronja',
  'Silas',
];
const LAST = [
  'Okafor',
  'Pruitt',
  'Brandel',
  'Castellano',
  'Grieve',
  'Aldous',
  'Hartmann',
  'Sayegh',
  'Whitlow',
  'Norrby',
  'Ekwueme',
  'Tarrant',
  'Lindqvist',
  'Oyelaran',
  'Penrose',
  'Vasko',
  'Delacroix',
  'Umber',
  'Haldane',
  'Rosquist',
];
const STREETS = [
  'Tatnall Street',
  'Alder Lane',
  'Quarry Road',
  'Millrace Court',
  'Linden Avenue',
  'Orchard Row',
  'Ferry Street',
  'Thistle Way',
  'Cooper Hill',
  'Sparrow Lane',
  'Old Mill Road',
  'Harbor Street',
];
/** Real towns with their postcodes, so that distances are. */
const TOWNS: [city: string, region: string, postcode: string][] = [
  ['Boise', 'ID', '83702'],
  ['Macon', 'GA', '31201'],
  ['Duluth', 'MN', '55802'],
  ['Tucson', 'AZ', '85701'],
  ['Salem', 'OR', '97301'],
  ['Erie', 'PA', '16501'],
  ['Columbus', 'OH', '43215'],
  ['Toledo', 'OH', '43604'],
  ['Ithaca', 'NY', '14850'],
  ['Burlington', 'VT', '05401'],
  ['Bangor', 'ME', '04401'],
  ['Roanoke', 'VA', '24011'],
  ['Asheville', 'NC', '28801'],
  ['Mobile', 'AL', '36602'],
  ['Baton Rouge', 'LA', '70801'],
  ['Amarillo', 'TX', '79101'],
  ['Lubbock', 'TX', '79401'],
  ['Tulsa', 'OK', '74103'],
  ['Wichita', 'KS', '67202'],
  ['Omaha', 'NE', '68102'],
  ['Fargo', 'ND', '58102'],
  ['Billings', 'MT', '59101'],
  ['Cheyenne', 'WY', '82001'],
  ['Pueblo', 'CO', '81003'],
  ['Provo', 'UT', '84601'],
  ['Reno', 'NV', '89501'],
  ['Fresno', 'CA', '93721'],
  ['Eureka', 'CA', '95501'],
  ['Yakima', 'WA', '98901'],
  ['Madison', 'WI', '53703'],
  ['Peoria', 'IL', '61602'],
  ['Louisville', 'KY', '40202'],
];

/** A received order with its channel's code. */
export interface DemoOrder {
  channel: string;
  order: ReceivedOrder;
}

function address(random: () => number): Address {
  const [city, region, postcode] = pick(random, TOWNS);
  return {
    name: `${pick(random, FIRST)} ${pick(random, LAST)}`,
    company: random() < 0.12 ? `${pick(random, LAST)} Apiaries` : '',
    line1: `${100 + Math.floor(random() * 900)} ${pick(random, STREETS)}`,
    line2: '',
    city,
    region,
    postcode,
    country: 'US',
    phone: `${200 + Math.floor(random() * 700)}-555-01${String(Math.floor(random() * 100)).padStart(2, '0')}`,
  };
}

/** How many of a product are bought at once: dozens of jars and frames, few of the rest. */
function quantityOf(random: () => number, p: DemoProduct): number {
  if (p.dollars < 4 && p.kind === 'piece') return pick(random, [1, 2, 4, 6, 10, 12, 24]);
  return random() < 0.8 ? 1 : 2;
}

/** What the shop asks for shipping: nothing for what is light now and then, else a base and something for each pound. */
function shippingOf(base: number, products: ReadonlySet<DemoProduct>, quantities: readonly number[]): number {
  const lb = Math.round([...products].reduce((sum, p, i) => sum + p.lb * quantities[i]!, 0));
  return base === 0 && lb < LIGHT_LB ? 0 : (base || FREE_NO_MORE_MINOR) + lb * POUND_MINOR;
}
const LIGHT_LB = 6;
const FREE_NO_MORE_MINOR = 695;
const POUND_MINOR = 75;

const addDays = (iso: string, days: number): string =>
  new Date(Date.parse(iso) + days * 86_400_000).toISOString().slice(0, 10);

/** `count` orders with numbers from `first`, placed at `at` (ISO) or some hours before. Lines never repeat a product. */
export function makeOrders(seed: number, count: number, first: number, at: string): DemoOrder[] {
  const random = seeded(seed);
  return Array.from({ length: count }, (_, i) => {
    const channel = pick(random, CHANNELS);
    const products = new Set(
      Array.from({ length: pick(random, [1, 1, 1, 2, 2, 3, 4]) }, () => pick(random, CATALOGUE)),
    );
    const lines = [...products].map(p => ({
      channelSku: channel.skuPrefix + p.sku,
      title: p.name,
      quantity: quantityOf(random, p),
      priceMinor: Math.round(p.dollars * 100),
    }));
    const shipTo = address(random);
    const placedAt = new Date(Date.parse(at) - Math.floor(random() * 20 * 3_600_000)).toISOString();
    return {
      channel: channel.code,
      order: {
        channelNumber: `${channel.prefix}-${first + i}`,
        placedAt,
        mail: `${shipTo.name.toLowerCase().replace(/[^a-z]+/g, '.')}@mail.example`,
        shipTo,
        payment: 'paid',
        currency: 'USD',
        shippingMinor: shippingOf(
          pick(random, [0, 695, 995, 1290]),
          products,
          lines.map(l => l.quantity),
        ),
        promised: addDays(at, pick(random, [2, 3, 4, 5, 6])),
        note: random() < 0.06 ? 'Gift: no prices in the box.' : '',
        lines,
      },
    };
  });
}
