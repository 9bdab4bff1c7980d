import { lockRoot, numbersUnder, type RootOrder } from './splitNumbers.queries.js';

export type { RootOrder } from './splitNumbers.queries.js';

import { In, IsNull, Not } from 'typeorm';
import type { Tx } from '../database/db.js';
import { escapeLike } from '../database/escapeLike.js';
import { event, toHistory } from './events.js';
import { Order } from './order.entity.js';

/** Locks and gives the order that an order was split off from, or itself: numbers of its parts are given one after another. */
export async function rootOf(tx: Tx, orderId: string): Promise<RootOrder> {
  return (await lockRoot(tx, orderId))!;
}

/** The first number \`NUMBER/2\`, \`NUMBER/3\` ... that no order of the channel has. Its root is locked. */
export async function freeSplitNumber(tx: Tx, root: RootOrder): Promise<string> {
  const rows = await numbersUnder(tx, root.channelId, `${escapeLike(root.channelNumber)}/%`);
  const taken = new Set(rows.map(r => r.channelNumber));
  let n = 2;
  while (taken.has(`${root.channelNumber}/${n}`)) n++;
  return `${root.channelNumber}/${n}`;
}

/** A channel's numbers are its own: parts that we split off and that bear some of them get other ones, and say so. */
export async function makeWay(tx: Tx, channelId: string, numbers: readonly string[]): Promise<void> {
  const ours = await tx.of(Order).find({
    where: { channelId, channelNumber: In([...numbers]), splitOfId: Not(IsNull()) },
    select: { id: true, channelNumber: true },
    order: { id: 'ASC' },
    lock: { mode: 'pessimistic_write' },
  });
  for (const o of ours) {
    const number = await freeSplitNumber(tx, await rootOf(tx, o.id));
    await tx.of(Order).update({ id: o.id }, { channelNumber: number });
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
