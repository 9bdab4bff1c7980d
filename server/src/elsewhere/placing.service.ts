import { type Address, addressLines, formatMoney } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { fromJson, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Mails } from '../mails/mails.module.js';
import { PurchaseOrders } from '../receiving/receiving.module.js';
import {
  changeElsewhere,
  event,
  lockOrders,
  StageNews,
  type StagePassed,
  toHistory,
} from '../records/records.module.js';
import { elsewhereAmong, linesToOrder, purchaseMail, purchaseToBuyer } from './elsewhere.queries.js';

/** Orders from suppliers what they are to send: once an order waits for them alone, and called off when it is cancelled. */
@Injectable()
export class Placing {
  constructor(
    private readonly purchases: PurchaseOrders,
    private readonly mails: Mails,
    private readonly house: HouseService,
    stages: StageNews,
  ) {
    stages.listen((tx, rows) => this.ofStages(tx, rows));
  }

  private async ofStages(tx: Tx, rows: readonly StagePassed[]): Promise<void> {
    const ids = rows.filter(r => r.stage === 'Elsewhere' || r.stage === 'Cancelled').map(r => r.orderId);
    if (ids.length === 0 || (await elsewhereAmong(tx, ids)).length === 0) return;
    await lockOrders(tx, [...new Set(ids)]);
    for (const e of await elsewhereAmong(tx, ids)) {
      // What became of it since the note was written counts.
      if (e.stage === 'Elsewhere' && e.supplierId && !e.purchaseOrderId)
        await this.order(tx, e.orderId, e.supplierId, e.channelNumber);
      if (e.stage === 'Cancelled') await this.callOff(tx, e, e.channelNumber);
    }
  }

  /** A purchase order that ships to the buyer, mailed where the supplier reads mail. */
  private async order(tx: Tx, orderId: string, supplierId: string, number: string): Promise<void> {
    const lines = await linesToOrder(tx, orderId);
    const made = await this.purchases.toBuyer(
      tx,
      supplierId,
      `Ships to the buyer of ${number}.`,
      lines.map(({ productId, quantity, priceMinor }) => ({ productId, quantity, priceMinor })),
    );
    await changeElsewhere(tx, orderId, { purchaseOrderId: made.id, placedAt: tx.at });
    const mailed = await this.mails.toSupplier(tx, {
      cause: made.id,
      toWhom: made.mail,
      ...(await this.letter(tx, made.no, lines)),
    });
    const says = mailed ? `mailed to ${made.mail}` : 'to be sent as a file; no mail went out';
    await toHistory(tx, [
      event(tx, orderId, 'elsewhere', `PO-${made.no} to ${made.supplier}: ships to the buyer, ${says}.`),
    ]);
    await tx.tell('orders', orderId);
  }

  /** A purchase order that has not left is called off, and its supplier is told. */
  async callOff(tx: Tx, e: { purchaseOrderId: string | null }, number: string): Promise<void> {
    if (!e.purchaseOrderId) return;
    await this.purchases.endToBuyer(tx, e.purchaseOrderId, 'cancelled');
    const to = await purchaseMail(tx, e.purchaseOrderId);
    if (to?.mail)
      await this.mails.toSupplier(tx, {
        cause: `off ${e.purchaseOrderId}`,
        toWhom: to.mail,
        subject: `PO-${to.no} is called off`,
        text: `Please do not send PO-${to.no} (order ${number}) any more. If it has left already, write to us.`,
      });
  }

  private async letter(
    tx: Tx,
    no: number,
    lines: Awaited<ReturnType<typeof linesToOrder>>,
  ): Promise<{ subject: string; text: string }> {
    const { currency } = await this.house.warehouse(tx);
    const { shipTo, channelNumber } = (await purchaseToBuyer(tx, no))!;
    const wants = lines.map(l => {
      const price = l.priceMinor === null ? '' : `, ${formatMoney(l.priceMinor, currency)} each`;
      return `${l.quantity} × ${l.code ?? l.sku}, ${l.name}${price}`;
    });
    return {
      subject: `PO-${no}: please send to our buyer`,
      text: [
        `Please send this to our buyer, with PO-${no} on the parcel and no prices in it:`,
        wants.join('\n'),
        ['Ship to:', ...addressLines(fromJson<Address>(shipTo))].join('\n'),
        `Then write back which carrier took it and its tracking number, naming PO-${no} or ${channelNumber}.`,
      ].join('\n\n'),
    };
  }
}
