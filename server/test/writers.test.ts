import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Tx } from '../src/database/db.js';
import { StockService } from '../src/stock/stock.service.js';
import { listAndPick, orderCsv, ordersIn, packAndClose, productOf, scanOf, seenIn } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
const outOfOrder = new Set<string>();
beforeAll(async () => {
  house = await openHouse();
  Tx.onOutOfOrder = o => outOfOrder.add(`${o.table} after ${o.held}: ${o.sql.trim().slice(0, 160)}`);
});
afterAll(() => {
  Tx.onOutOfOrder = null;
});
afterAll(() => house.close());

/** Orders come: files of few products, so that all writers want the same stock. */
async function incoming(lead: Caller, who: string): Promise<void> {
  for (let i = 0; i < 8; i++) {
    const rows = Array.from(
      { length: 6 },
      (_, k) =>
        `${who}-${i}-${k},Ruth,1 Road,Boise,ID,83702,${['JAR-HEX-12', 'SET-SMKHTL', 'FRM-DP-A', 'KIT-TOOLS'][(i + k) % 4]},X,${1 + (k % 3)},2.50`,
    );
    expect((await lead.takeIn('orders', `channel=web&name=${who}`, orderCsv(rows))).status).toBe(200);
  }
}

/** Picks and packs whatever is Clear; another may be faster, which is told by 409 and is no fault. */
async function working(lead: Caller): Promise<number> {
  let packed = 0;
  for (let i = 0; i < 5; i++) {
    const ids = (await ordersIn(lead, 'Clear', 60)).toSorted(() => (i % 2 ? 1 : -1)).slice(0, 2);
    const list = await listAndPick(lead, ids).catch(() => null);
    if (!list) continue;
    for (const id of ids) {
      const order = (await lead.get(`orders/${id}`)).body;
      if (order.row.stage === 'Picked' && (await packAndClose(lead, order.row.no).catch(() => null)))
        packed++;
    }
  }
  return packed;
}

async function cancelling(lead: Caller): Promise<void> {
  for (let i = 0; i < 10; i++) {
    const [id] = (await ordersIn(lead, 'Clear', 20)).slice(i % 5);
    if (id)
      expect([200, 409, 422]).toContain((await lead.post(`orders/${id}/cancel`, { reason: 'test' })).status);
  }
}

/** Goods arrive by purchase order and scan; some scans are taken back. */
async function atTheDock(lead: Caller): Promise<void> {
  const { no } = (
    await lead.post('receiving', {
      key: v7(),
      supplier: 'Writers',
      lines: ['JAR-HEX-12', 'HTL-S10', 'FRM-DP-A'].map(sku => ({ sku, quantity: 60 })),
    })
  ).body;
  const { sessionId, state } = (await lead.post(`receiving/${no}/open`, { device: 'd' })).body;
  for (let i = 0; i < 24; i++) {
    const line = state.lines[i % 3];
    const text = i % 5 === 4 ? 'AUK-UNDO' : i % 7 === 6 ? 'C-03-1' : line.product.codes[0].code;
    expect([200, 422]).toContain(
      (await lead.post(`receiving/sessions/${sessionId}/scans`, scanOf(text))).status,
    );
  }
}

/** Kits are planned, picked, finished in part, ended; some are taken apart. */
async function building(lead: Caller): Promise<number> {
  let made = 0;
  for (let i = 0; i < 4; i++) {
    const plan = await lead.post('builds', { key: v7(), sku: 'KIT-TOOLS', quantity: 3 });
    if (plan.status !== 200) continue;
    const build = (await lead.get(`builds/${plan.body.no}`)).body;
    const list = i === 3 ? null : await listAndPick(lead, [build.orderId]).catch(() => null);
    const finish = { key: v7(), made: 2, to: 'C-04-1' };
    if (list && (await lead.post(`builds/${build.no}/finish`, finish)).status === 200) made += 2;
    expect([200, 422]).toContain((await lead.post(`builds/${build.no}/stop`)).status);
  }
  const apart = { key: v7(), sku: 'KIT-TOOLS', quantity: 1, from: 'C-04-1', to: 'C-05-1', reason: 'test' };
  expect([200, 422]).toContain((await lead.post('builds/unbuild', apart)).status);
  return made;
}

/** Places are counted, fewer and more than the books say; goods are moved and written off. */
async function correcting(lead: Caller): Promise<void> {
  for (let i = 0; i < 14; i++) {
    const sku = ['JAR-HEX-12', 'SMK-4-ST', 'HTL-S10'][i % 3]!;
    const at = (await productOf(lead, sku)).places[0];
    if (!at) continue;
    const [quantity, reason] = [1, 'test'];
    const answer =
      i % 4 === 0
        ? await lead.post('stock/moves', { key: v7(), sku, from: at.code, to: 'D-01-1', quantity, reason })
        : i % 4 === 1
          ? await lead.post('stock/write-offs', { key: v7(), sku, from: at.code, quantity, reason })
          : await lead.post('stock/counts', {
              key: v7(),
              place: at.code,
              seen: await seenIn(lead, at.code),
              lines: [{ sku, lot: null, counted: Math.max(0, at.onHand + (i % 2 === 0 ? -2 : 2)) }],
            });
    expect([200, 409, 422]).toContain(answer.status);
  }
}

/** Goods arrive in a bin, by the ledger's own function. */
async function receiving(): Promise<void> {
  const stock = house.app.get(StockService);
  const place = async (kind: string) =>
    (await house.db.one<{ id: string }>('SELECT id FROM place WHERE kind = ? ORDER BY code LIMIT 1', [kind]))!
      .id;
  const [from, to] = [await place('outside'), await place('bin')];
  const ids = await house.db.rows<{ id: string }>(
    "SELECT id FROM product WHERE sku IN ('JAR-HEX-12', 'FRM-DP-A', 'SMK-4-ST')",
  );
  for (let i = 0; i < 20; i++)
    await house.db.tx({ personId: null, at: new Date() }, async tx => {
      await stock.lockFree(
        tx,
        ids.map(p => p.id),
      );
      return stock.apply(tx, {
        moves: ids.map(p => ({
          productId: p.id,
          lotId: null,
          from,
          to,
          quantity: 1,
          why: 'receive',
          causeId: null,
        })),
      });
    });
}

test('8 writers at once leave every invariant whole', async () => {
  const lead = await house.signIn('AB-1001');
  const results = await Promise.all([
    incoming(lead, 'A'),
    incoming(lead, 'B'),
    working(lead),
    working(lead),
    working(lead),
    cancelling(lead),
    cancelling(lead),
    receiving(),
  ]);
  expect(
    results.filter((r): r is number => typeof r === 'number').reduce((a, b) => a + b, 0),
  ).toBeGreaterThan(3);
  expect(await differences(house)).toEqual([]);
  const broken = await house.db.rows('SELECT * FROM productStock WHERE reserved > onHand OR onHand < 0');
  expect(broken).toEqual([]);
});

test('8 at once, with the dock, builds and counts among them: nothing is lost, doubled or promised twice', async () => {
  const lead = await house.signIn('AB-1001');
  const [one, two] = await Promise.all([
    building(lead),
    building(lead),
    atTheDock(lead),
    atTheDock(lead),
    correcting(lead),
    correcting(lead),
    incoming(lead, 'C'),
    working(lead),
  ]);
  expect(one + two).toBeGreaterThan(0);
  expect(await differences(house)).toEqual([]);
  expect(await house.db.rows('SELECT * FROM productStock WHERE reserved > onHand OR onHand < 0')).toEqual([]);
  // What lies in the house, left it or was made there comes from a place that owes it: all places of a product sum up to nothing.
  const sums = await house.db.rows(
    'SELECT b.productId FROM stockBalance b GROUP BY b.productId HAVING SUM(b.onHand) <> 0',
  );
  expect(sums).toEqual([]);
}, 240_000);

test('under all of this, no transaction locked rows out of the stated order', () => {
  expect([...outOfOrder].sort()).toEqual([]);
});

test('the check finds what is wrong: a balance, a stage and a session falsified by hand', async () => {
  await house.db.run('UPDATE stockBalance SET onHand = onHand + 1 WHERE bounded AND onHand > 0 LIMIT 1');
  await house.db.run("UPDATE orders SET stage = 'Departed' WHERE stage = 'Clear' LIMIT 1");
  await house.db.run(
    `UPDATE scanSession SET state = JSON_SET(state, '$.at', 99) WHERE kind = 'pick' LIMIT 1`,
  );
  const found = (await differences(house)).map(d => d.what);
  expect(found).toContain('stock balance');
  expect(found).toContain('stage');
  expect(found).toContain('state of a session');
});
