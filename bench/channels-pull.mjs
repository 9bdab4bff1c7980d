// channels.pull: 5,000 orders pulled from a channel, and how fast the server answers others meanwhile, against the same answers with nothing pulled.
import { caller, percentile } from './house.mjs';

const ORDERS = Number(process.env.AUK_BENCH_PULL ?? 5_000);
/** A pull may make other answers at most so much slower. */
const GOAL = 2;
const QUIET_RUNS = 60;
/** What people ask meanwhile. */
const ASKED = [
  'orders',
  'departures/board',
  'departures/strip',
  'products?words=jar',
  'orders?stage=Clear&sort=leaves',
];

export async function* channelsPull() {
  const lead = await caller();
  const standins = `http://127.0.0.1:${process.env.AUK_STANDINS_PORT}/channels/web`;
  const quiet = [];
  for (let i = 0; i < QUIET_RUNS; i++) quiet.push(await timed(lead, ASKED[i % ASKED.length]));
  await fetch(`${standins}/sell`, { method: 'POST', body: JSON.stringify({ count: ORDERS }) });
  await lead.post('channels/web/pull', {});
  const began = performance.now();
  const took = [];
  for (let i = 0; ; i++) {
    took.push(await timed(lead, ASKED[i % ASKED.length]));
    const link = (await lead.get('channels')).find(c => c.code === 'web').link;
    if (link.doing === null && link.lastCounts.new >= ORDERS) break;
    if (link.error) throw new Error(link.error);
  }
  const seconds = (performance.now() - began) / 1000;
  console.error(`  ${ORDERS} orders pulled in ${seconds.toFixed(1)} s, ${took.length} answers meanwhile`);
  const [value, floor] = [percentile(took, 0.95), percentile(quiet, 0.95)];
  yield {
    n: ORDERS,
    value,
    unit: 'ms p95',
    floor,
    ratio: value / floor,
    goal: `ratio <= ${GOAL}`,
    holds: value / floor <= GOAL,
  };
}

async function timed(lead, path) {
  const began = performance.now();
  await lead.get(path);
  return performance.now() - began;
}
