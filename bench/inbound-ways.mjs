// inbound.ways: all ways of a shipment of 60 products and 2,000 units (boxes, pallets, freight by rate sheets) for two networks, against
// boxes and pallets alone for one of them; the networks' answers are given.
import { compareWays, planInboundBoxes, planWays, readRateSheet, seeded } from '@auk/core';
import { BOX, LIMITS, shipment } from './inbound-boxes.mjs';

const GOAL_MS = 3_000;
const GOAL_WAYS = 24;
const place = (lat, lon) => ({ country: 'US', postcode: '43701', point: { lat, lon } });

function services(name, near, far, upTo) {
  const text = `sheet, ${name}, USD, from 2026-01-01
service, g, ${name}, step 1 lb
prices, g, 1, 2
zone, g, 1, US, up to 300 mi, 1
zone, g, 2, US, up to 9000 mi, 4
weight, g, ${upTo}, ${near}, ${far}`;
  const read = readRateSheet(text.split('\n').map(line => line.split(',').map(c => c.trim())));
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value.services;
}

const NETWORKS = ['Fernway Centers', 'Nordhavn Lager'].map((name, i) => ({
  name,
  dock: { center: 'Columbus', at: place(40, -83 - i) },
  centers: [
    { center: 'Columbus', share: 4, at: place(40, -83) },
    { center: 'Reno', share: 3, at: place(39.5, -119.8) },
    { center: 'Tampa', share: 2, at: place(27.9, -82.5) },
  ],
  feeMinor: { 'one dock': 0, spread: 15 },
  daysToSale: { 'one dock': 8, spread: 1 },
  storageMinor: 2,
  takes: ['parcels', 'pallets'],
  limits: LIMITS,
}));
const CARRIERS = ['Redfen Parcel', 'Heron Post', 'Coldharbour Express'].flatMap((name, i) =>
  ['parcels', 'pallets'].map(form => ({
    name,
    of: null,
    form,
    services:
      form === 'parcels'
        ? services(name, `${9 + i}.00`, `${21 - i}.00`, '150 lb')
        : services(name, '148.00', '320.00', '2000 lb'),
  })),
);

export function* inboundWays() {
  const lines = shipment(seeded(60), 60, () => 33).map(l => ({ ...l, prepare: [], by: 'us' }));
  const ask = {
    from: place(39.9, -82),
    lines,
    boxes: [BOX],
    pallet: {
      name: '48 x 40 in',
      length: 12_192,
      width: 10_160,
      deck: 1_440,
      weightMg: 20e6,
      mostHeight: 18_288,
      mostWeightMg: 680e6,
    },
    palletMinor: 1_400,
    networks: NETWORKS,
    carriers: CARRIERS,
    handing: 'fetched',
    door: 'dock',
    minutes: { box: 3, pallet: 12 },
  };
  let began = performance.now();
  const { ways } = planWays(ask);
  const table = compareWays(
    ways,
    lines.map(l => ({ ratePerDay: 2, earnsMinor: 300, there: 5, units: l.units })),
  );
  const value = performance.now() - began;
  began = performance.now();
  planInboundBoxes([BOX], lines, LIMITS);
  const floor = performance.now() - began;
  yield {
    n: `60 products, ${lines.reduce((n, l) => n + l.units, 0)} units, ${table.ways.length} ways`,
    value,
    unit: 'ms',
    floor,
    ratio: value / floor,
    goal: `<= ${GOAL_MS} ms, ${GOAL_WAYS} ways`,
    holds: value <= GOAL_MS && table.ways.length >= GOAL_WAYS,
  };
}
