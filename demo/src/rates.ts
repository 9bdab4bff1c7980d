import type { ServiceRates } from '@auk/core';

/** A carrier of the demo: its code, name, services with rates, and how its tracking numbers look. */
export interface DemoCarrier {
  code: string;
  name: string;
  tracking: 'S10' | 'R12';
  services: ServiceRates[];
}

/** Prices in cents: a base, more for each step and each zone. Rounded to whole cents per cell, so a cell is the price. */
function table(upTo: number[], base: number, perStep: number, perZone: number): number[][] {
  return upTo.map(limit =>
    Array.from({ length: 8 }, (_, z) =>
      Math.round(base + perStep * limit + z * (perZone + perStep * limit * 0.09)),
    ),
  );
}

const OUNCES = [4, 8, 12, 15];
const TO_20 = Array.from({ length: 20 }, (_, i) => i + 1);
const TO_70 = Array.from({ length: 70 }, (_, i) => i + 1);
const FAR = [2, 2, 3, 3, 4, 4, 5, 5];

export const CARRIERS: DemoCarrier[] = [
  {
    code: 'heron',
    name: 'Heron Post',
    tracking: 'S10',
    services: [
      {
        service: 'letter',
        name: 'Heron Light',
        step: 'oz',
        upTo: OUNCES,
        prices: table(OUNCES, 310, 14, 12),
        dimDivisor: 166,
        days: FAR,
        oversize: null,
        residentialMinor: 0,
      },
      {
        service: 'parcel',
        name: 'Heron Parcel',
        step: 'lb',
        upTo: TO_70,
        prices: table(TO_70, 590, 62, 38),
        dimDivisor: 166,
        days: [2, 2, 2, 3, 3, 3, 4, 4],
        oversize: { overInches: 84, minor: 1500 },
        residentialMinor: 0,
      },
      {
        service: 'quick',
        name: 'Heron Quick',
        step: 'lb',
        upTo: TO_20,
        prices: table(TO_20, 2450, 190, 160),
        dimDivisor: null,
        days: [1, 1, 1, 1, 2, 2, 2, 2],
        oversize: { overInches: 84, minor: 2200 },
        residentialMinor: 0,
      },
    ],
  },
  {
    code: 'redfen',
    name: 'Redfen Parcel',
    tracking: 'R12',
    services: [
      {
        service: 'ground',
        name: 'Redfen Ground',
        step: 'lb',
        upTo: TO_70,
        prices: table(TO_70, 705, 41, 24),
        dimDivisor: 139,
        days: [1, 2, 2, 3, 3, 4, 4, 5],
        oversize: { overInches: 105, minor: 1850 },
        residentialMinor: 165,
      },
      {
        service: 'two-day',
        name: 'Redfen Two Day',
        step: 'lb',
        upTo: TO_70,
        prices: table(TO_70, 1480, 145, 120),
        dimDivisor: 139,
        days: [1, 1, 2, 2, 2, 2, 2, 2],
        oversize: { overInches: 105, minor: 1850 },
        residentialMinor: 165,
      },
    ],
  },
];
