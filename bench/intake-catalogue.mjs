// intake.catalogue: the same 1,000 orders taken in by a house of ever more products, against the smallest house: what is not sold must not be read.
import { randomUUID } from 'node:crypto';
import { caller, receive, services } from './house.mjs';
import { csv } from './import-orders.mjs';

const ORDERS = 1_000;
const RUNS = 5;
const PRODUCTS = [1_000, 20_000, 100_000];
const GOAL = 1.2;

/** Fills the house up to so many products, each with a code, a listing at the web store and stock of its own. */
async function fill(db, count) {
  const [{ n }] = await db.rows('SELECT COUNT(*) AS n FROM product');
  const [{ id: channelId }] = await db.rows("SELECT id FROM channel WHERE code = 'web'");
  const made = Array.from({ length: Math.max(0, count - n) }, (_, i) => ({ id: randomUUID(), no: n + i }));
  await db.insert(
    'product',
    made.map(({ id, no }) => ({
      id,
      sku: `BENCH-${no}`,
      name: `Product ${no}`,
      kind: 'piece',
      stage: 'Live',
      weightMg: 100_000,
      facts: '{}',
    })),
  );
  await db.insert(
    'productCode',
    made.map(({ id, no }) => ({ code: `BENCHCODE${no}`, productId: id, units: 1 })),
  );
  await db.insert(
    'listing',
    made.map(({ id, no }) => ({
      id: randomUUID(),
      channelId,
      channelSku: `BENCH-${no}`,
      title: `Product ${no}`,
      priceMinor: 100,
      productId: id,
    })),
  );
  await db.insert(
    'productStock',
    made.map(({ id }) => ({ productId: id, onHand: 0, reserved: 0 })),
  );
}

export async function* intakeCatalogue() {
  const lead = await caller();
  const house = await services();
  await receive(house, 200_000);
  const times = [];
  for (const count of PRODUCTS) {
    await fill(house.db, count);
    const runs = [];
    for (let run = 0; run <= RUNS; run++) {
      const body = csv(ORDERS, `I${count}R${run}`);
      const began = performance.now();
      await lead.takeIn('orders', 'channel=web&name=intake.csv', body);
      // The first import of a size warms the database up.
      if (run > 0) runs.push(performance.now() - began);
    }
    times.push(runs.sort((a, b) => a - b)[Math.floor(RUNS / 2)]);
    const [value, floor] = [times.at(-1), times[0]];
    const ratio = value / floor;
    yield { n: count, value, unit: 'ms', floor, ratio, goal: `ratio <= ${GOAL}`, holds: ratio <= GOAL };
  }
  await house.close();
}
