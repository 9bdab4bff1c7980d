// scan.receive: docks that receive a purchase order each, a scan a second; p95 of the round trip, against an empty request at the same rate.
import { randomUUID } from 'node:crypto';
import { caller, percentile } from './house.mjs';

const GOAL_MS = 50;
const SECONDS = 30;

export async function* scanReceive() {
  const lead = await caller();
  for (const docks of [3, 10]) {
    const orders = await Promise.all(Array.from({ length: docks }, () => opened(lead)));
    const each = work => Promise.all(orders.map((o, i) => atRate(i / docks, k => work(o, k))));
    const floor = percentile((await each(() => lead.get('people/me'))).flat(), 0.95);
    const value = percentile((await each((o, k) => receive(lead, o, k))).flat(), 0.95);
    yield {
      n: docks,
      value,
      unit: 'ms p95',
      floor,
      ratio: value / floor,
      goal: `p95 <= ${GOAL_MS} ms`,
      holds: value <= GOAL_MS,
    };
  }
}

async function opened(lead) {
  const { no } = await lead.post('receiving', {
    key: randomUUID(),
    supplier: 'Bench',
    lines: [{ sku: 'JAR-HEX-12', quantity: 500 }],
  });
  return lead.post(`receiving/${no}/open`, { device: 'bench' });
}

async function receive(lead, { sessionId, state }, count) {
  const { answer } = await lead.post(`receiving/sessions/${sessionId}/scans`, {
    id: randomUUID(),
    text: state.lines[0].product.codes[0].code,
    at: new Date().toISOString(),
    device: 'bench',
    count,
  });
  if (answer.kind !== 'counted') throw new Error(answer.says);
}

/** Does some work once a second, from a phase of the second on; gives how long each took. */
async function atRate(phase, work) {
  const times = [];
  const start = performance.now() + phase * 1000;
  for (let i = 0; i < SECONDS; i++) {
    await new Promise(resolve => setTimeout(resolve, Math.max(0, start + i * 1000 - performance.now())));
    const began = performance.now();
    await work(i);
    times.push(performance.now() - began);
  }
  return times;
}
