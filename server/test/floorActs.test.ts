import { type PickState, type SortState, seeded, stopOpen } from '@auk/core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { ordersIn, scanOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
/** Who acts at once: a lead, two pickers, two packers. */
let people: Caller[];
beforeAll(async () => {
  house = await openHouse();
  people = await Promise.all(['AB-1001', 'AB-1003', 'AB-1006', 'AB-1002'].map(b => house.signIn(b)));
});
afterAll(() => house.close());

interface Hand {
  who: Caller;
  /** A list under way, and where it stands as this hand knows. */
  walk: { path: string; no: string; state: PickState } | null;
  wall: { path: string; state: SortState } | null;
  random: () => number;
  name: string;
}

const pick = <T>(random: () => number, of: readonly T[]): T => of[Math.floor(random() * of.length)]!;

/** One scan of a walk: mostly the right one, now and then any other. */
function nextScan(h: Hand, state: PickState): string {
  const stop = state.stops[state.at];
  const done = !stop || state.stops.every(s => stopOpen(s) === 0);
  if (done) return pick(h.random, ['STAGE-1', 'STAGE-2', 'AUK-UNDO', 'A-01-1']);
  if (state.heap && !state.trolley) return pick(h.random, ['TR-001', 'TR-002', 'TR-003', 'TR-004', 'TO-118']);
  const right = state.placeSeen === stop.placeCode ? stop.product.codes[0]!.code : stop.placeCode;
  const roll = h.random();
  if (roll < 0.72) return right;
  return pick(h.random, [
    'AUK-ALL',
    'AUK-ALL',
    'AUK-SHORT',
    'AUK-UNDO',
    'AUK-SKIP',
    '2',
    'NO-SUCH-CODE',
    'TO-119',
  ]);
}

/** What a hand does next. Whatever is refused is refused with words; nothing is ever our fault. */
async function act(h: Hand): Promise<number[]> {
  const said: number[] = [];
  const post = async (path: string, body: unknown) => {
    const got = await h.who.post(path, body);
    said.push(got.status);
    return got;
  };
  const roll = h.random();
  if (h.walk) {
    const { body, status } = await post(h.walk.path, scanOf(nextScan(h, h.walk.state)));
    if (status === 200) h.walk.state = body.state;
    if (status !== 200 || h.walk.state.dropped || (roll < 0.03 && h.walk.state.history.length > 4))
      h.walk = null;
    return said;
  }
  if (h.wall) {
    const line = h.wall.state.lines.find(l => l.sorted < l.wanted);
    const text =
      roll < 0.8 && line ? line.product.codes[0]!.code : pick(h.random, ['AUK-ALL', 'AUK-UNDO', 'CE-A03']);
    const { body, status } = await post(h.wall.path, scanOf(text));
    if (status === 200) h.wall.state = body.state;
    if (status !== 200 || !line || roll < 0.02) h.wall = null;
    return said;
  }
  if (roll < 0.25) {
    const ids = await ordersIn(h.who, 'Clear', 30);
    const some = ids.filter(() => h.random() < 0.2).slice(0, 5);
    if (some.length > 0)
      await post('picking/lists', { orderIds: some, method: h.random() < 0.4 ? 'batch' : 'cluster' });
  } else if (roll < 0.65) {
    const { body, status } = await post('picking/next', { device: h.name });
    if (status === 200)
      h.walk = { path: `picking/sessions/${body.sessionId}/scans`, no: body.state.listNo, state: body.state };
  } else if (roll < 0.85) {
    const [heap] = (await h.who.get('sorting/heaps')).body;
    if (heap) {
      const { body, status } = await post('sorting/open', { code: heap.code, wall: null, device: h.name });
      if (status === 200) h.wall = { path: `sorting/sessions/${body.sessionId}/scans`, state: body.state };
    }
  } else {
    const ids = await ordersIn(h.who, 'Picked', 10);
    if (ids.length === 0) return said;
    const no = (await h.who.get(`orders/${pick(h.random, ids)}`)).body.row.no;
    const { body, status } = await post('packing/open', { code: no, device: h.name });
    if (status !== 200) return said;
    const path = `packing/sessions/${body.sessionId}/scans`;
    for (const line of body.state.lines)
      for (let i = 0; i < line.wanted && said.at(-1) === 200; i++)
        await post(path, scanOf(line.product.codes[0].code));
    if (h.random() < 0.7) for (const text of ['BX-3', '3 lb', 'AUK-CLOSE']) await post(path, scanOf(text));
    else await post(path, scanOf('AUK-UNDO'));
  }
  return said;
}

test('whatever pickers, sorters and packers do at once, every piece is in one place and the books agree', {
  timeout: 240_000,
}, async () => {
  const hands = people.map(
    (who, i): Hand => ({
      who,
      walk: null,
      wall: null,
      random: seeded(i + 1),
      name: `hand-${i}`,
    }),
  );
  const said: number[] = [];
  for (let round = 0; round < 4; round++) {
    await Promise.all(
      hands.map(async h => {
        for (let i = 0; i < 40; i++) said.push(...(await act(h)));
      }),
    );
    expect(await differences(house)).toEqual([]);
  }
  expect(said.filter(s => s >= 500)).toEqual([]);
  const count = async (sql: string) => (await house.db.one<{ n: number }>(sql))!.n;
  // It was no idle day: goods were picked, sorted and packed.
  for (const why of ['pick', 'sort', 'pack'])
    expect(await count(`SELECT COUNT(*) AS n FROM stockMove WHERE why = '${why}'`), why).toBeGreaterThan(5);
  // No cell has two orders, and no order two cells;
  expect(
    await count(
      "SELECT COUNT(*) AS n FROM (SELECT s.cellId FROM pickStop s JOIN allocation a ON a.stopKey = s.id AND a.hold = 'sorted' AND a.quantity > 0 GROUP BY s.cellId HAVING COUNT(DISTINCT s.orderId) > 1) x",
    ),
  ).toBe(0);
  // no tote two orders, no place less than nothing.
  expect(
    await count(
      "SELECT COUNT(*) AS n FROM (SELECT busyWith FROM place WHERE kind = 'cell' AND busyWith IS NOT NULL GROUP BY busyWith HAVING COUNT(*) > 1) x",
    ),
  ).toBe(0);
  expect(
    await count(
      "SELECT COUNT(*) AS n FROM (SELECT s.toteId FROM pickStop s JOIN allocation a ON a.stopKey = s.id AND a.hold = 'picked' AND a.quantity > 0 JOIN place p ON p.id = s.toteId AND p.kind = 'tote' JOIN pickList l ON l.id = s.listId AND l.method <> 'batch' GROUP BY s.toteId HAVING COUNT(DISTINCT s.orderId) > 1) x",
    ),
  ).toBe(0);
  expect(
    await count(
      "SELECT COUNT(*) AS n FROM stockBalance b JOIN place p ON p.id = b.placeId WHERE b.onHand < 0 AND p.kind NOT IN ('outside', 'gone', 'missing', 'made')",
    ),
  ).toBe(0);
});
