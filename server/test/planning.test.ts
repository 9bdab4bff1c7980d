import type { Board, PlanIn, PlanView } from '@auk/contract';
import { FIRST_TROLLEY } from '@auk/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { bringIn, idOfOrder, pickAll } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse();
  lead = await house.signIn('AB-1001');
});
afterAll(() => house.close());

const question = (more: Partial<PlanIn> = {}): PlanIn => ({
  id: v7(),
  departures: [],
  tags: [],
  areas: [],
  apart: false,
  pickers: 2,
  until: null,
  method: 'cluster',
  trolley: FIRST_TROLLEY,
  keep: null,
  ...more,
});

/** Asks for a plan and waits until it is made. */
async function planned(more: Partial<PlanIn> = {}): Promise<PlanView> {
  const asked = await lead.post('planning/plans', question(more));
  expect(asked.status).toBe(200);
  return ready(asked.body.id);
}

async function ready(id: string): Promise<PlanView> {
  for (;;) {
    const { body } = await lead.get(`planning/plans/${id}`);
    if (body.state !== 'planning') return body;
  }
}

test('a plan holds every Clear order once, keeps to its trolley, and says what it is measured by', async () => {
  const choices = (await lead.get('planning/choices')).body;
  const plan = await planned();
  expect(plan).toMatchObject({ state: 'ready', method: 'cluster', exact: true });
  const orders = plan.lists.flatMap(l => l.orders.map(o => o.no));
  expect(new Set(orders).size).toBe(orders.length);
  expect(orders.length).toBe(choices.clear);
  for (const list of plan.lists) expect(list.totes <= FIRST_TROLLEY.totes || list.tooLarge).toBe(true);
  expect(plan.metres).toBeGreaterThanOrEqual(plan.boundMetres);
  expect(plan.metres).toBeLessThan(plan.firstComeMetres!);
  expect(plan.firstComeMetres).toBeLessThan(plan.singlyMetres!);
  const { path, stops } = (await lead.get(`planning/plans/${plan.id}/lists/${plan.lists[0]!.id}/walk`)).body;
  expect(stops.length).toBe(plan.lists[0]!.stops);
  const drawn = path
    .slice(1)
    .reduce(
      (n: number, p: { x: number; y: number }, i: number) =>
        n + Math.abs(p.x - path[i].x) + Math.abs(p.y - path[i].y),
      0,
    );
  expect(Math.round(drawn)).toBe(plan.lists[0]!.metres);
});

test('methods are compared, and the best is the plan', async () => {
  const plan = await planned({ method: 'compare' });
  expect(plan.compared.map(c => c.method).sort()).toEqual(['batch', 'cluster', 'single']);
  expect(plan.method).toBe(plan.compared[0]!.method);
  expect(plan.compared[0]!.minutes).toBeLessThanOrEqual(plan.compared[1]!.minutes);
});

test('a question may name departures; one that finds nothing says so', async () => {
  const { departures } = (await lead.get('planning/choices')).body;
  const [first] = departures;
  const plan = await planned({ departures: [first.id] });
  expect(plan.lists.flatMap(l => l.orders)).toHaveLength(first.orders);
  expect(await planned({ tags: ['nobody has this'] })).toMatchObject({
    state: 'failed',
    says: 'No Clear order is left that this asks for.',
  });
});

test('an order is moved to another list, measured anew; a stale change and a full trolley are refused', async () => {
  const plan = await planned({ trolley: { ...FIRST_TROLLEY, totes: 4 } });
  const [from, to] = [plan.lists.find(l => l.orders.length > 1)!, plan.lists.find(l => l.totes === 4)!];
  const order = from.orders[0]!;
  const act = (version: number, target: string | null) =>
    lead.post(`planning/plans/${plan.id}/move`, { version, orderId: order.id, to: target });
  if (from.id !== to.id) expect((await act(plan.version, to.id)).status).toBe(422);
  const moved = await act(plan.version, null);
  expect(moved.status).toBe(200);
  const fresh = moved.body.lists.at(-1);
  expect(fresh.orders.map((o: { no: string }) => o.no)).toEqual([order.no]);
  expect(fresh.metres).toBeGreaterThan(0);
  expect(await act(plan.version, null)).toMatchObject({ status: 409 });
  // Back again: the list that it stood on alone is gone.
  const back = await act(moved.body.version, from.id);
  expect(back.body.lists.map((l: { id: string }) => l.id).sort()).toEqual(plan.lists.map(l => l.id).sort());
  expect(back.body.metres).toBe(plan.metres);
});

test('a locked list takes and gives no order, and stays when the rest is planned again', async () => {
  const plan = await planned();
  const [list, other] = plan.lists;
  const act = { version: plan.version, listId: list!.id, locked: true };
  const locked = (await lead.post(`planning/plans/${plan.id}/lock`, act)).body as PlanView;
  const move = { version: locked.version, orderId: list!.orders[0]!.id, to: other!.id };
  expect(await lead.post(`planning/plans/${plan.id}/move`, move)).toMatchObject({
    status: 409,
    body: { detail: `List ${list!.seq} is locked.` },
  });
  const next = await planned({ keep: plan.id });
  const names = (l: { orders: { no: string }[] }) => l.orders.map(o => o.no).sort();
  const kept = next.lists.filter(l => l.locked);
  expect(kept.map(names)).toEqual([names(list!)]);
  expect(kept[0]!.metres).toBe(list!.metres);
  const all = next.lists.flatMap(names);
  expect(new Set(all).size).toBe(all.length);
  expect(all.sort()).toEqual(plan.lists.flatMap(names).sort());
});

test('lists of a plan are released once, what is not Clear any more stays behind, and stock agrees', async () => {
  const plan = await planned();
  const list = plan.lists.find(l => l.orders.length > 2)!;
  const gone = list.orders[0]!;
  expect((await lead.post(`orders/${gone.id}/park`, { reason: 'a call first' })).status).toBeLessThan(300);
  const release = () => lead.post(`planning/plans/${plan.id}/release`, { listIds: [list.id] });
  const both = await Promise.all([release(), release()]);
  const numbers = both.map(b => b.body.lists[0].no);
  expect(numbers[0]).toMatch(/^PL-\d+$/);
  expect(numbers[1]).toBe(numbers[0]);
  expect(both.flatMap(b => b.body.lists[0].left)).toEqual([`${gone.no} is Parked`]);
  const view = (await lead.get(`planning/plans/${plan.id}`)).body as PlanView;
  expect(view.lists.find(l => l.id === list.id)!.released).toBe(numbers[0]);
  const made = (await lead.get(`picking/lists/${numbers[0]}`)).body;
  expect(new Set(made.rows.map((r: { order: string }) => r.order)).size).toBe(list.orders.length - 1);
  expect(made.metres).toBeLessThanOrEqual(list.metres);
  // A list that is not there is answered for itself, and holds up no other.
  const mixed = await lead.post(`planning/plans/${plan.id}/release`, { listIds: [v7(), list.id] });
  expect(mixed.body.lists.map((l: { no: string | null }) => l.no)).toEqual([null, numbers[0]]);
  // All orders of the next one are gone: it says so, and nothing of it is released.
  const next = view.lists.find(l => !l.released)!;
  for (const o of next.orders) await lead.post(`orders/${o.id}/park`, { reason: 'all of them' });
  const none = (await lead.post(`planning/plans/${plan.id}/release`, { listIds: [next.id] })).body.lists[0];
  expect(none).toMatchObject({
    no: null,
    says: `No order of list ${next.seq} is Clear any more. Make a new plan of what is.`,
  });
  expect(await differences(house)).toEqual([]);
});

test('an order that is too much for a tote takes two, and its stops say into which', async () => {
  await bringIn(lead, [['PLAN-HEAVY', 'JAR-HEX-12', 30, '2.00']]);
  const id = await idOfOrder(lead, 'PLAN-HEAVY');
  const plan = await planned({ trolley: { ...FIRST_TROLLEY, toteKg: 3 } });
  const list = plan.lists.find(l => l.orders.some(o => o.id === id))!;
  const totes = list.orders.find(o => o.id === id)!.totes;
  expect(totes).toBeGreaterThan(1);
  const { no } = (await lead.post(`planning/plans/${plan.id}/release`, { listIds: [list.id] })).body.lists[0];
  const rows = (await lead.get(`picking/lists/${no}`)).body.rows as {
    order: string;
    tote: string;
    quantity: number;
  }[];
  const own = rows.filter(r => r.order === list.orders.find(o => o.id === id)!.no);
  expect(new Set(own.map(r => r.tote)).size).toBe(totes);
  expect(own.reduce((n, r) => n + r.quantity, 0)).toBe(30);
  // Picked whole, the order stands in both totes, and stock agrees.
  await pickAll(lead, no);
  expect(await differences(house)).toEqual([]);
});

test('planning is stopped with the best plan so far, and repeating the question makes no second plan', async () => {
  const ask = question();
  await lead.post('planning/plans', ask);
  await lead.post(`planning/plans/${ask.id}/stop`);
  expect((await lead.post('planning/plans', ask)).body.id).toBe(ask.id);
  const plan = await ready(ask.id);
  expect(plan.state).toBe('ready');
  const all = (await lead.get('planning/plans')).body as { id: string }[];
  expect(all.filter(p => p.id === ask.id)).toHaveLength(1);
});

test('only who may release lists may plan, and nonsense is refused in words', async () => {
  const picker = await house.signIn('AB-1002');
  expect((await picker.get('planning/choices')).status).toBe(403);
  expect((await picker.post('planning/plans', question())).status).toBe(403);
  const bad = await lead.post('planning/plans', { ...question(), pickers: 0 });
  expect(bad.status).toBe(400);
  expect((await lead.get(`planning/plans/${v7()}`)).status).toBe(404);
});

test('the Board says how many pickers a departure takes, and how many are picking', async () => {
  const board = async () => (await lead.get('departures/board')).body as Board;
  // Whatever the hour is, those of the day that have not gone leave late enough to be picked for.
  await house.db.run(
    "UPDATE departure SET cutOff = cutOff + INTERVAL 6 HOUR WHERE state = 'open' AND cutOff > NOW()",
  );
  const before = await board();
  expect(before.picking).toBe(1);
  const coming = before.departures.filter(
    d =>
      d.state === 'open' && d.bar.clear + d.bar.listed > 0 && Date.parse(d.cutOff) - Date.now() > 3_600_000,
  );
  expect(coming.length).toBeGreaterThan(0);
  for (const d of coming) expect(d.pickers).toBeGreaterThanOrEqual(1);
  for (const d of before.departures.filter(x => x.bar.clear + x.bar.listed === 0))
    expect(d.pickers).toBeNull();
  // An order of a thousand pieces takes hours: more pickers are needed, or the time is over.
  const last = coming.at(-1)!;
  const { rows } = (await lead.get(`orders?departure=${last.id}&stage=Clear`)).body;
  await house.db.run('UPDATE allocation SET quantity = quantity + 100000 WHERE orderId = ? AND hold = ?', [
    rows[0].id,
    'soft',
  ]);
  const then = (await board()).departures.find(d => d.id === last.id)!;
  expect(then.pickers).toBeGreaterThan(last.pickers!);
  await house.db.run('UPDATE allocation SET quantity = quantity - 100000 WHERE orderId = ? AND hold = ?', [
    rows[0].id,
    'soft',
  ]);
});
