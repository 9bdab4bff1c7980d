import type { Tx } from '../database/db.js';
import { escapeLike } from '../database/escapeLike.js';
import { event, toHistory } from './events.js';

/** The order that a channel knows, of which others were split off. */
export interface RootOrder {
  id: string;
  channelId: string;
  channelNumber: string;
}

/** Locks and gives the order that an order was split off from, or itself: numbers of its parts are given one after another. */
export async function rootOf(tx: Tx, orderId: string): Promise<RootOrder> {
  return (await tx.one<RootOrder>(
    'SELECT r.id, r.channelId, r.channelNumber FROM orders o JOIN orders r ON r.id = COALESCE(o.splitOfId, o.id) WHERE o.id = ? FOR UPDATE',
    [orderId],
  ))!;
}

/** The first number \`NUMBER/2\`, \`NUMBER/3\` ... that no order of the channel has. Its root is locked. */
export async function freeSplitNumber(tx: Tx, root: RootOrder): Promise<string> {
  const rows = await tx.rows<{ channelNumber: string }>(
    'SELECT channelNumber FROM orders WHERE channelId = ? AND channelNumber LIKE ?',
    [root.channelId, `${escapeLike(root.channelNumber)}/%`],
  );
  const taken = new Set(rows.map(r => r.channelNumber));
  let n = 2;
  while (taken.has(`${root.channelNumber}/${n}`)) n++;
  return `${root.channelNumber}/${n}`;
}

/** A channel's numbers are its own: parts that we split off and that bear some of them get other ones, and say so. */
export async function makeWay(tx: Tx, channelId: string, numbers: readonly string[]): Promise<void> {
  const ours = await tx.rows<{ id: string; channelNumber: string }>(
    'SELECT id, channelNumber FROM orders WHERE channelId = ? AND channelNumber IN (?) AND splitOfId IS NOT NULL ORDER BY id FOR UPDATE',
    [channelId, [...numbers]],
  );
  for (const o of ours) {
    const number = await freeSplitNumber(tx, await rootOf(tx, o.id));
    await tx.run('UPDATE orders SET channelNumber = ? WHERE id = ?', [number, o.id]);
    await toHistory(tx, [
      event(
        tx,
        o.id,
        'renumbered',
        `The channel sent an order of its own with the number ${o.channelNumber}; this part is ${number} now.`,
      ),
    ]);
  }
}
