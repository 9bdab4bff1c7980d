import { v7 } from 'uuid';
import { afterAll, afterEach, beforeAll, beforeEach, expect, test } from 'vitest';
import { Expiry } from '../src/corrections/expiry.service.js';
import { Tx } from '../src/database/db.js';
import { lockAll } from '../src/database/locks.js';
import { Reservations } from '../src/reservations/reservations.module.js';
import { bringIn, idOfOrder, productOf } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

/** Acts that concern several orders, lists and products at once lock them in the stated order. */
let house: House;
let lead: Caller;
const outOfOrder: string[] = [];
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
});
afterAll(() => house.close());
beforeEach(() => {
  outOfOrder.length = 0;
  Tx.onOutOfOrder = o => outOfOrder.push(`${o.table} after ${o.held}: ${o.sql.trim().slice(0, 120)}`);
});
afterEach(() => {
  Tx.onOutOfOrder = null;
});

/** Orders of one thing, each on a list of its own. */
async function listed(sku: string, numbers: string[]): Promise<void> {
  await bringIn(
    lead,
    numbers.map(n => [n, sku, 1, '5.00']),
  );
  for (const n of numbers) {
    const list = await lead.post('picking/lists', { orderIds: [await idOfOrder(lead, n)] });
    expect(list.status, JSON.stringify(list.body)).toBe(200);
  }
}

test('a lot that expires while two lists hold it and an order is short of it', async () => {
  const sku = 'MIT-STR-10';
  await listed(sku, ['LOT-1', 'LOT-2', 'LOT-3']);
  await bringIn(lead, [['LOT-4', sku, 900, '5.00']]);
  const lots = await house.db.rows<{ id: string }>(
    'SELECT DISTINCT l.id FROM pickStop s JOIN lot l ON l.id = s.lotId JOIN orders o ON o.id = s.orderId WHERE o.channelNumber LIKE ?',
    ['LOT-%'],
  );
  expect(lots).toHaveLength(1);
  await house.db.run('UPDATE lot SET expiry = CURRENT_DATE - INTERVAL 2 DAY WHERE id = ?', [lots[0]!.id]);
  expect(await house.app.get(Expiry).sweep(new Date())).toBeGreaterThanOrEqual(1);
  expect(outOfOrder).toEqual([]);
  expect(await differences(house)).toEqual([]);
});

test('goods that are written off while lists hold them and an order is short of them', async () => {
  const sku = 'SMK-4-ST';
  await listed(sku, ['OFF-1', 'OFF-2', 'OFF-3']);
  await bringIn(lead, [['OFF-4', sku, 900, '5.00']]);
  const [stop] = await house.db.rows<{ code: string; onHand: number }>(
    'SELECT p.code, b.onHand FROM pickStop s JOIN orders o ON o.id = s.orderId JOIN place p ON p.id = s.placeId JOIN stockBalance b ON b.placeId = p.id AND b.productId = s.productId WHERE o.channelNumber = ?',
    ['OFF-1'],
  );
  const quantity = Number(stop!.onHand) - 1;
  const off = { key: v7(), sku, from: stop!.code, quantity, reason: 'water came in' };
  expect((await lead.post('stock/write-offs', off)).body.detail).toBeUndefined();
  expect(outOfOrder).toEqual([]);
  expect((await productOf(lead, sku)).onHand).toBeGreaterThanOrEqual(0);
  expect(await differences(house)).toEqual([]);
});

test('goods that nobody was promised are written off while an order is short of them', async () => {
  await house.db.run("REPLACE INTO setting (name, value) VALUES ('reserveMode', '\"whole\"')");
  const [free] = await house.db.rows<{ sku: string; code: string }>(
    "SELECT x.sku, p.code FROM product x JOIN productStock s ON s.productId = x.id AND s.onHand > 3 AND s.reserved = 0 JOIN stockBalance b ON b.productId = x.id AND b.onHand > 1 JOIN place p ON p.id = b.placeId AND p.kind = 'bin' WHERE x.kind = 'piece' AND NOT EXISTS (SELECT 1 FROM linePart l JOIN orders o ON o.id = l.orderId AND o.isOpen WHERE l.productId = x.id) LIMIT 1",
  );
  await bringIn(lead, [['NONE-1', free!.sku, 900, '5.00']]);
  outOfOrder.length = 0;
  const off = { key: v7(), sku: free!.sku, from: free!.code, quantity: 1, reason: 'water came in' };
  expect((await lead.post('stock/write-offs', off)).body.detail).toBeUndefined();
  expect(outOfOrder).toEqual([]);
  await house.db.run("DELETE FROM setting WHERE name = 'reserveMode'");
});

test('an order that begins to want goods while they come is locked first: the act is tried again', async () => {
  const sku = 'SMK-4-ST';
  const productId = (await productOf(lead, sku)).id;
  const reservations = house.app.get(Reservations);
  let seen: string[] = [];
  let tries = 0;
  await house.db.tx({ personId: null, at: new Date() }, async tx => {
    // At first nobody wants it yet.
    await lockAll(tx, { orders: seen, productStock: [productId] });
    seen = await reservations.wanting(tx, [productId]);
    tries++;
    await reservations.reserveAgain(tx, [productId]);
  });
  expect(seen.length).toBeGreaterThan(0);
  expect(tries).toBe(2);
  expect(outOfOrder).toEqual([]);
});

test('of a transaction that the database ended nothing is written, not even what was on its way', async () => {
  const [one, other] = await house.db.rows<{ id: string }>('SELECT id FROM person ORDER BY id LIMIT 2');
  const touch = (tx: Tx, person: { id: string }) =>
    tx.run('UPDATE person SET name = name WHERE id = ?', [person.id]);
  const doer = { personId: null, at: new Date() };
  const both = { light: gate(), heavy: gate() };
  let tries = 0;
  await Promise.all([
    house.db.tx(doer, async tx => {
      tries++;
      await touch(tx, one!);
      both.light.open();
      await both.heavy.opened;
      // Two statements at once: the database ends the transaction at the first, and the second stands in the line behind it.
      await Promise.all([touch(tx, other!), tx.tell('stock', 'once')]);
    }),
    house.db.tx(doer, async tx => {
      // The one that has written more is not the one that is ended.
      for (let i = 0; i < 50; i++) await tx.tell('stock', 'many');
      await touch(tx, other!);
      both.heavy.open();
      await both.light.opened;
      await touch(tx, one!);
    }),
  ]);
  expect(tries).toBeGreaterThan(1);
  const told = await house.db.rows<{ ref: string; n: number }>(
    "SELECT ref, CAST(COUNT(*) AS INT) AS n FROM outbox WHERE ref IN ('once', 'many') GROUP BY ref ORDER BY ref",
  );
  expect(told).toEqual([
    { ref: 'many', n: 50 },
    { ref: 'once', n: 1 },
  ]);
});

test('of work that failed nothing is written, not even by the half of it that did not know', async () => {
  const going: Promise<void>[] = [];
  const failed = house.db.tx({ personId: null, at: new Date() }, async tx => {
    const half = (async () => {
      for (let i = 0; i < 20; i++) await tx.tell('stock', 'half');
    })();
    going.push(half);
    await Promise.all([half, tx.run('UPDATE productStock SET onHand = -1 WHERE onHand > 0')]);
  });
  await expect(failed).rejects.toThrow(/CONSTRAINT/);
  await expect(going[0]).rejects.toThrow('The transaction is over');
  expect(await house.db.rows("SELECT 1 FROM outbox WHERE ref = 'half'")).toEqual([]);
});

/** Something that others wait for. */
function gate() {
  let open = () => {};
  const opened = new Promise<void>(resolve => {
    open = resolve;
  });
  return { open, opened };
}
