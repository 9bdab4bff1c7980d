import { afterAll, beforeAll, expect, test } from 'vitest';
import { StockService } from '../src/stock/stock.service.js';
import { listAndPick, orderCsv, ordersIn, packAndClose } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
beforeAll(async () => {
  house = await openHouse({ pastOrders: 0, openOrders: 140 });
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
    expect(
      (await lead.file(`imports/orders?channel=web&name=${who}&commit=yes`, orderCsv(rows))).status,
    ).toBe(200);
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

/** Goods arrive in a bin: the ledger's own function, as receiving will use it. */
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
    await house.db.tx({ personId: null, at: new Date() }, tx =>
      stock.apply(tx, {
        moves: ids.map(p => ({
          productId: p.id,
          lotId: null,
          from,
          to,
          quantity: 1,
          why: 'receive',
          causeId: null,
        })),
      }),
    );
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
