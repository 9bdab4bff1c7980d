// rating.quotes: one service, one parcel, zone looked up, surcharges itemised, on one thread; the floor adds up as many numbers as a quote has charges.
import { rate, seeded } from '@auk/core';
import { CARRIERS } from '@auk/demo';
import { zonePlace } from '@auk/server/reference/postcodes';

const SECONDS = 2;
const GOAL = 100_000;
const TOWNS = ['43215', '83702', '31201', '55802', '85701', '10001', '90210', '96813', '99501', '04401'];

export async function* ratingQuotes() {
  const random = seeded(5);
  const cards = CARRIERS.flatMap(c => c.accounts.flatMap(a => a.sheet.services));
  const from = zonePlace('US', '43701');
  const places = TOWNS.map(t => zonePlace('US', t));
  const side = () => Math.round(254 * (2 + random() * 20));
  const parcels = Array.from({ length: 1000 }, (_, i) => ({
    size: { length: side(), width: side(), height: side() },
    weightMg: Math.round(1e5 + random() * 2e7),
    from,
    to: places[i % places.length],
    residential: random() < 0.7,
    options: random() < 0.2 ? { valueMinor: 30_000 } : undefined,
  }));
  let [quotes, charges] = [0, 0];
  const began = performance.now();
  const until = began + SECONDS * 1000;
  for (let i = 0; performance.now() < until; )
    for (const end = i + 1000; i < end; i++) {
      const rated = rate(cards[i % cards.length], parcels[i % parcels.length]);
      quotes++;
      if (rated.ok) charges += rated.value.charges.length;
    }
  const each = quotes / ((performance.now() - began) / 1000);
  const floorBegan = performance.now();
  let sum = 0;
  for (let i = 0; i < charges; i++) sum += i % 7;
  const floor = quotes / ((performance.now() - floorBegan) / 1000 + sum * 1e-12);
  console.error(`  ${quotes} quotes, ${charges} charges`);
  yield {
    n: 'one thread',
    value: each,
    unit: 'quotes a second',
    floor,
    ratio: floor / each,
    goal: `>= ${GOAL} a second`,
    holds: each >= GOAL,
  };
}
