import { describe, expect, test } from 'vitest';
import type { ServiceRates } from '../rating/rateSheet.js';
import { readRateSheet } from '../rating/readRateSheet.js';
import { planWays, type WayAsk, type WayLine, type WayNetwork } from './planWays.js';
import { box, IN, LB, LIMITS, line } from './samples.js';
import { compareWays } from './ways.js';

/** One service, by what a pound and each further one cost near and far. */
function services(
  name: string,
  near: string,
  far: string,
  days: [number, number],
  upTo = '150 lb',
): ServiceRates[] {
  const text = `sheet, ${name}, USD, from 2026-01-01
service, g, ${name}, step 1 lb
prices, g, 1, 2
zone, g, 1, US, up to 200 mi, ${days[0]}
zone, g, 2, US, up to 9000 mi, ${days[1]}
weight, g, ${upTo}, ${near}, ${far}`;
  const read = readRateSheet(text.split('\n').map(line => line.split(',').map(c => c.trim())));
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.services;
}

const place = (lat: number, lon: number) => ({ country: 'US', postcode: '43701', point: { lat, lon } });
const NETWORK: WayNetwork = {
  name: 'Fernway Centers',
  dock: { center: 'Columbus', at: place(40, -83) },
  centers: [
    { center: 'Reno', share: 1, at: place(39.5, -119.8) },
    { center: 'Columbus', share: 3, at: place(40, -83) },
  ],
  feeMinor: { 'one dock': 0, spread: 15 },
  daysToSale: { 'one dock': 8, spread: 1 },
  storageMinor: 2,
  takes: ['parcels', 'pallets'],
  limits: LIMITS,
};
const wayLine = (id: string, units: number, more: Partial<WayLine> = {}): WayLine => ({
  ...line(id, units),
  prepare: [{ needs: 'label', when: [], feeMinor: 30, materialMinor: 1, seconds: 15 }],
  by: 'us',
  ...more,
});
const ASK: WayAsk = {
  handing: 'fetched',
  door: 'dock',
  from: place(39.9, -82),
  lines: [wayLine('jar', 180), wayLine('smoker', 40)],
  boxes: [box('L', 20, 16, 13, 180)],
  pallet: {
    name: '48 × 40 in',
    length: 48 * IN,
    width: 40 * IN,
    deck: 1_440,
    weightMg: 20_000_000,
    mostHeight: 72 * IN,
    mostWeightMg: 1_500 * LB,
  },
  palletMinor: 1_400,
  networks: [NETWORK],
  carriers: [
    {
      name: 'Redfen Parcel',
      of: 'Fernway Centers',
      form: 'parcels',
      services: services('Redfen', '9.00', '21.00', [1, 4]),
    },
    { name: 'Heron Post', of: null, form: 'parcels', services: services('Heron', '12.00', '19.00', [2, 3]) },
    {
      name: 'Stonewater Freight',
      of: null,
      form: 'pallets',
      services: services('Stonewater', '148.00', '320.00', [2, 5], '2000 lb'),
    },
  ],
  minutes: { box: 3, pallet: 12 },
};

describe('ways to send a shipment', () => {
  const { ways, dropped, parts, left } = planWays(ASK);
  const of = (placement: string, carrier: string) =>
    ways.find(w => w.placement === placement && w.carrier === carrier)!;

  test('are every placement by every carrier, with the boxes and pallets of each part', () => {
    expect(ways.map(w => `${w.placement}, ${w.form}, ${w.carrier}, ${w.rates}`).sort()).toEqual([
      'one dock, pallets, Stonewater Freight, ours',
      'one dock, parcels, Heron Post, ours',
      'one dock, parcels, Redfen Parcel, theirs',
      'spread, pallets, Stonewater Freight, ours',
      'spread, parcels, Heron Post, ours',
      'spread, parcels, Redfen Parcel, theirs',
    ]);
    expect([dropped, left]).toEqual([[], []]);
    const units = (placement: string) =>
      parts
        .find(p => p.placement === placement)!
        .parts.map(p => p.boxes.flatMap(b => b.contents).reduce((n, c) => n + c.units, 0));
    expect(units('one dock')).toEqual([220]);
    expect(units('spread').sort((a, b) => a - b)).toEqual([55, 165]);
  });

  test('cost what their boxes, their freight and their units cost, each by itself', () => {
    const one = of('one dock', 'Redfen Parcel');
    const boxes = parts[0]!.parts[0]!.boxes.length;
    expect(one).toMatchObject({
      feeMinor: 0,
      freightMinor: 900 * boxes,
      materialMinor: 180 * boxes,
      storageMinor: 440,
      // A label on each of 220 units: a cent of material, a quarter of a minute of our own work.
      preparationMinor: 220,
      minutes: 25 + 30 + 3 * boxes,
      days: 1 + 8,
    });
    expect(of('spread', 'Redfen Parcel')).toMatchObject({ feeMinor: 15 * 220, days: 4 + 1 });
    const pallets = parts[0]!.parts[0]!.pallets.length;
    expect(of('one dock', 'Stonewater Freight')).toMatchObject({
      freightMinor: 14_800 * pallets,
      materialMinor: 180 * boxes + 1_400 * pallets,
    });
  });

  test('that do not go say why, and the others stay', () => {
    const narrow = planWays({
      ...ASK,
      networks: [{ ...NETWORK, takes: ['parcels'], feeMinor: { 'one dock': 0, spread: null } }],
      carriers: ASK.carriers.map(c =>
        c.name === 'Heron Post'
          ? { ...c, services: services('Heron', '12.00', '19.00', [2, 3], '10 lb') }
          : c,
      ),
    });
    expect(narrow.ways.map(w => w.carrier)).toEqual(['Redfen Parcel']);
    expect(narrow.dropped.map(d => `${d.placement}, ${d.carrier}: ${d.why}`)).toEqual([
      'one dock, Heron Post: To Columbus: Heron: the parcel is too heavy',
      'one dock, Stonewater Freight: Fernway Centers takes no pallets.',
      'spread, Redfen Parcel: Fernway Centers takes nothing so: spread.',
      'spread, Heron Post: Fernway Centers takes nothing so: spread.',
      'spread, Stonewater Freight: Fernway Centers takes nothing so: spread.',
    ]);
    const drum = wayLine('drum', 1, { size: { length: 60 * IN, width: 20 * IN, height: 20 * IN } });
    expect(planWays({ ...ASK, lines: [drum] })).toMatchObject({
      ways: [],
      left: [{ network: 'Fernway Centers', id: 'drum', why: 'It is larger than every box.' }],
    });
  });

  test('of another network are that network’s own, by its limits and its docks', () => {
    const metric: WayNetwork = {
      ...NETWORK,
      name: 'Nordhavn Lager',
      limits: { mostMg: 15_000_000, mostSide: 6_000, heavyMg: 10_000_000 },
    };
    const both = planWays({ ...ASK, networks: [NETWORK, metric] });
    // Rates of one network are no way to the other.
    expect(both.ways.filter(w => w.network === 'Nordhavn Lager').map(w => w.carrier)).toEqual([
      'Heron Post',
      'Stonewater Freight',
      'Heron Post',
      'Stonewater Freight',
    ]);
    for (const p of both.parts.filter(p => p.network === 'Nordhavn Lager').flatMap(p => p.parts))
      for (const b of p.boxes) expect(b.weightMg).toBeLessThanOrEqual(15_000_000);
    const table = compareWays(both.ways, [{ ratePerDay: null, earnsMinor: null, there: 0, units: 220 }]);
    expect(table.ways[0]!.totalMinor).toBe(Math.min(...table.ways.map(w => w.totalMinor)));
  });
});

test('each network counts its own preparation and its own pallets', () => {
  const other: WayNetwork = {
    ...NETWORK,
    name: 'Nordhavn Lager',
    prepare: [[], []],
    pallet: { ...ASK.pallet, name: 'too low', mostHeight: 1_500 },
  };
  const { ways, dropped } = planWays({ ...ASK, networks: [NETWORK, other] });
  const of = (network: string) => ways.filter(w => w.network === network);
  expect(of(NETWORK.name).every(w => w.preparationMinor === 220)).toBe(true);
  expect(of(other.name).every(w => w.preparationMinor === 0)).toBe(true);
  expect(of(other.name).length).toBeGreaterThan(0);
  // No box stands on a pallet that is lower than it.
  expect(of(other.name).some(w => w.form === 'pallets')).toBe(false);
  expect(dropped.filter(d => d.network === other.name && d.form === 'pallets').map(d => d.why)).toContain(
    'A box is too large or too heavy for a pallet of too low.',
  );
});

test('handing over costs for each center; what cannot be brought is dropped with why', () => {
  const carriers = ASK.carriers.map(c => ({
    ...c,
    handing: { fetchMinor: 2_500, homeMinor: 6_500, hardMinor: 8_000, bringTo: null },
  }));
  const plain = planWays(ASK).ways;
  const fetched = planWays({ ...ASK, carriers, door: 'home' });
  expect(fetched.ways).toHaveLength(plain.length);
  for (const [i, w] of fetched.ways.entries()) {
    const { parts } = fetched.parts.find(p => p.network === w.network && p.placement === w.placement)!;
    expect(w.freightMinor - plain[i]!.freightMinor).toBe(9_000 * parts.length);
  }
  const brought = planWays({ ...ASK, carriers, handing: 'brought' });
  expect(brought.ways).toEqual([]);
  expect(brought.dropped.map(d => d.why)).toContain(
    `${carriers[0]!.name} fetches; nothing can be brought to it.`,
  );
});
