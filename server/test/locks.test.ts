import { expect, test } from 'vitest';
import { LOCK_ORDER, LockWatch, locksOf, type OutOfOrder } from '../src/database/locks.js';

test('the locks of a statement are the tables it writes or reads for writing', () => {
  expect(locksOf('SELECT id FROM orders WHERE id = ? FOR UPDATE')).toEqual(['orders']);
  expect(locksOf('SELECT id FROM orders WHERE id = ?')).toEqual([]);
  expect(locksOf('SELECT o.id FROM orders o JOIN parcel c ON c.orderId = o.id FOR UPDATE')).toEqual([
    'orders',
    'parcel',
  ]);
  expect(locksOf('SELECT id FROM orders WHERE id IN (SELECT orderId FROM parcel) FOR UPDATE')).toEqual([
    'orders',
  ]);
  expect(locksOf('UPDATE `productStock` SET onHand = onHand + 1')).toEqual(['productStock']);
  expect(locksOf('INSERT INTO stockBalance (id) VALUES (1) ON DUPLICATE KEY UPDATE onHand = 1')).toEqual([
    'stockBalance',
  ]);
  expect(locksOf('UPDATE setting SET value = 1')).toEqual([]);
});

test('whoever locks in the stated order is not named; whoever turns back is, with both tables', () => {
  const found: OutOfOrder[] = [];
  const inOrder = new LockWatch(f => found.push(f));
  for (const table of LOCK_ORDER) inOrder.note(`SELECT id FROM ${table} FOR UPDATE`);
  // What is held already may be locked again.
  inOrder.note('SELECT id FROM orders FOR UPDATE');
  expect(found).toEqual([]);
  const turned = new LockWatch(f => found.push(f));
  turned.note('UPDATE productStock SET onHand = 1');
  turned.note('SELECT id FROM orders WHERE id = 1 FOR UPDATE');
  expect(found).toMatchObject([{ held: 'productStock', table: 'orders' }]);
});

test('rows that a transaction made itself are nobody else’s to wait for', () => {
  const found: OutOfOrder[] = [];
  const watch = new LockWatch(f => found.push(f));
  watch.note('INSERT INTO orders (id) VALUES (1)');
  watch.note('UPDATE productStock SET onHand = 1');
  watch.note('UPDATE orders SET stage = 1 WHERE id = 1');
  expect(found).toEqual([]);
});
