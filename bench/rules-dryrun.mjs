// rules.dryrun: a book of the demo tried on stored orders, boxes planned anew and remembered, against the bare statements that read the same
// rows; and orders taken in with the book on, against the same with an empty book.
import { randomUUID } from 'node:crypto';
import { setTimeout as wait } from 'node:timers/promises';
import { caller, receive, services } from './house.mjs';
import { csv } from './import-orders.mjs';

const ORDERS = 10_000;
const GOAL_MS = 10_000;
const IMPORTED = 1_000;
const GOAL_IMPORT = 1.3;
const RUNS = 3;
const PORTION = 100;
const POLL_MS = 20;

export async function* rulesDryrun() {
  const lead = await caller();
  const house = await services();
  await receive(house, 200_000);
  const { no, book } = await lead.get('rules');
  yield await imported(lead, house.db, no, book);
  await lead.takeIn('orders', 'channel=web&name=dry.csv', csv(ORDERS, 'DRY'));
  const floor = await bare(house.db);
  for (const how of ['boxes planned anew', 'remembered']) {
    const value = await tried(lead, book);
    const ratio = value / floor;
    yield {
      n: `${ORDERS}, ${how}`,
      value,
      unit: 'ms',
      floor,
      ratio,
      goal: `<= ${GOAL_MS} ms`,
      holds: value <= GOAL_MS,
    };
  }
  await house.close();
}

/** Tries the book on the newest orders, as a page does, and waits for the end. */
async function tried(lead, book) {
  const began = performance.now();
  const id = randomUUID();
  await lead.post('rules/dry-runs', { id, book, rule: null, on: { last: ORDERS } });
  for (;;) {
    const { state, result } = await lead.get(`rules/dry-runs/${id}`);
    if (state === 'done') {
      if (result.orders !== ORDERS) throw new Error(`tried on ${result.orders} of ${ORDERS} orders`);
      return performance.now() - began;
    }
    await wait(POLL_MS);
  }
}

/** The rows that a dry run reads, by bare statements in as large portions. */
async function bare(db) {
  const began = performance.now();
  const ids = await db.rows('SELECT id FROM orders WHERE draftedAt IS NULL ORDER BY no DESC LIMIT ?', [
    ORDERS,
  ]);
  for (let i = 0; i < ids.length; i += PORTION) {
    const some = ids.slice(i, i + PORTION).map(r => r.id);
    await db.rows('SELECT * FROM orders o JOIN shipment s ON s.orderId = o.id WHERE o.id IN (?)', [some]);
    await db.rows('SELECT * FROM orderLine WHERE orderId IN (?)', [some]);
    await db.rows('SELECT * FROM linePart t JOIN product p ON p.id = t.productId WHERE t.orderId IN (?)', [
      some,
    ]);
    await db.rows('SELECT * FROM orderTag WHERE orderId IN (?)', [some]);
  }
  return performance.now() - began;
}

/** Waits until no rules are left to be run in the background: what one run caused is not timed with the next. */
async function quiet(db) {
  for (;;) {
    const [{ n }] = await db.rows(
      "SELECT (SELECT COUNT(*) FROM job WHERE kind = 'run rules' AND state IN ('waiting', 'taken')) + (SELECT COUNT(*) FROM stagePassed) AS n",
    );
    if (Number(n) === 0) return;
    await wait(POLL_MS);
  }
}

/** A file taken in with the book on and with none, in turns; the middle of each is told. */
async function imported(lead, db, no, book) {
  const times = { on: [], off: [] };
  let base = no;
  for (let run = 0; run < RUNS; run++)
    for (const [how, rows] of [
      ['off', []],
      ['on', book.rows],
    ]) {
      base = (await lead.post('rules', { base, note: how, book: { rows } })).no;
      await quiet(db);
      const began = performance.now();
      await lead.takeIn('orders', `channel=web&name=${how}${run}.csv`, csv(IMPORTED, `${how}${run}`));
      times[how].push(performance.now() - began);
    }
  const [value, floor] = [times.on, times.off].map(all => all.sort((a, b) => a - b)[1]);
  const ratio = value / floor;
  return {
    n: `${IMPORTED} taken in, book on`,
    value,
    unit: 'ms',
    floor,
    ratio,
    goal: `ratio <= ${GOAL_IMPORT}`,
    holds: ratio <= GOAL_IMPORT,
  };
}
