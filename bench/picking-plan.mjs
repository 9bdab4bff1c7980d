// picking.plan: lists for n orders (three lines on average) on 20 aisles, by trolleys of 12 totes; time, length against plain ways and against what no plan can go below, and how fast scans are answered meanwhile.
import { batchOf, FIRST_TIMES, plainWalks, planLists, walksOf } from '@auk/core';
import { oneBlock, orders as ordersOn } from './floors.mjs';
import { percentile, receive } from './house.mjs';
import { prepare, scanning } from './scan-roundtrip.mjs';

const TROLLEY = { orders: 12, totes: 12, volume: Infinity, weight: Infinity };
const SEED = 1;
const SIZES = [500, 1_000, 2_000, 5_000];
/** As the server plans: so many walks are measured for each order. */
const STEPS_EACH = 60;
const MOST_STEPS = 250_000;
const GOALS = { 500: 5, 5000: 60 };
const OF_SINGLY = 0.2;
const OF_FIRST_COME = 0.6;
const BENCHES = 3;
const SCAN_MS = 50;
const MOST_MB = 500;

export async function* pickingPlan() {
  for (const n of SIZES) yield* onItsOwn(n);
  yield await besideScans();
}

function* onItsOwn(n) {
  const walks = walksOf(oneBlock);
  const orders = ordersOn(walks, n, SEED);
  let began = performance.now();
  const plan = planLists(
    {
      layout: oneBlock,
      walks,
      orders,
      method: 'cluster',
      limits: TROLLEY,
      cells: 12,
      shifts: [{ until: null }],
      times: FIRST_TIMES,
      seed: SEED,
      steps: Math.min(MOST_STEPS, STEPS_EACH * n),
    },
    () => false,
  );
  const value = (performance.now() - began) / 1000;
  began = performance.now();
  const plain = plainWalks(oneBlock);
  for (let i = 0; i < n; i += TROLLEY.orders)
    plain(
      batchOf(
        walks,
        orders,
        orders.slice(i, i + TROLLEY.orders).map((_, k) => i + k),
      ).visit,
      'S-shape',
    );
  const floor = (performance.now() - began) / 1000;
  const memory = Math.round(process.memoryUsage().rss / 1e6);
  console.error(
    `  ${n} orders: ${plan.lists.length} lists, ${(plan.distance / 1e7).toFixed(1)} km, ${memory} MB`,
  );
  const goal = GOALS[n];
  yield {
    n: `${n}`,
    value,
    unit: 's',
    floor,
    ratio: value / floor,
    goal: goal ? `<= ${goal} s, memory < ${MOST_MB} MB` : 'growth',
    holds: !goal || (value <= goal && memory < MOST_MB),
  };
  for (const [of, length, most] of [
    ['singly by S-shape', plan.singly, OF_SINGLY],
    ['first come by S-shape', plan.firstCome, OF_FIRST_COME],
  ])
    yield {
      n: `${n}, length of ${of}`,
      value: (100 * plan.distance) / length,
      unit: '%',
      floor: (100 * plan.bound) / length,
      ratio: plan.distance / plan.bound,
      goal: `<= ${100 * most} %`,
      holds: plan.distance / length <= most,
    };
}

/** Five thousand Clear orders are planned by the server while three benches scan once a second. */
async function besideScans() {
  const { sessions, lead, house } = await prepare(BENCHES, 200);
  const skus = (await lead.get('products?kind=piece&size=60')).rows.map(p => p.sku);
  await receive(house, 1_000, skus, true);
  await house.close();
  const rows = Array.from({ length: 15_000 }, (_, i) => {
    const order = Math.floor(i / 3);
    return `PLAN-${order},Plan ${order},${order} Road,Boise,ID,83702,${skus[(i * 7 + order) % skus.length]},Thing,1,2.50`;
  });
  await lead.takeIn(
    'orders',
    'channel=web&name=plan.csv',
    `Order number,Buyer name,Address 1,City,State,Zip,SKU,Item title,Qty,Unit price\n${rows.join('\n')}`,
  );
  const id = crypto.randomUUID();
  const choices = await lead.get('planning/choices');
  const before = await Promise.all(sessions.map((s, i) => scanning(lead, s, i / BENCHES, 20)));
  await lead.post('planning/plans', {
    id,
    departures: [],
    tags: [],
    areas: [],
    apart: false,
    pickers: 10,
    until: null,
    method: 'cluster',
    trolley: choices.trolley,
    keep: null,
  });
  const times = await Promise.all(sessions.map((s, i) => scanning(lead, s, i / BENCHES, 40, 20)));
  const plan = await lead.get(`planning/plans/${id}`);
  console.error(`  ${choices.clear} Clear orders: after 40 s the plan is ${plan.state}`);
  const [value, floor] = [percentile(times.flat(), 0.95), percentile(before.flat(), 0.95)];
  return {
    n: '5000, scans meanwhile',
    value,
    unit: 'ms p95',
    floor,
    ratio: value / floor,
    goal: `p95 < ${SCAN_MS} ms`,
    holds: value < SCAN_MS,
  };
}
