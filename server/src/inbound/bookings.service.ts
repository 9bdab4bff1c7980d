import type { ChosenWay, InboundPrice, NetworkBooking, NetworkBookingIn, NetworkRules } from '@auk/contract';
import { boxesOnPallets, count, formatMoney, type PalletOfBoxes, planChangeSays, ssccOf } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, fromJson, type Sql, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { HandoverService } from '../departures/departures.module.js';
import { type CenterAnswer, Centers } from '../elsewhere/elsewhere.module.js';
import { HouseService } from '../house/house.module.js';
import { Busy, Forbidden, TooLate } from '../http/problem.js';
import { CatalogService } from '../products/products.module.js';
import {
  boxesOf,
  boxesWithout,
  contentsOf,
  numberBoxes,
  numberPallets,
  packedOfOrder,
  palletNumbers,
} from './inbound.queries.js';
import { InboundBoxRow } from './inboundBox.entity.js';
import { InboundPart } from './inboundPart.entity.js';
import { InboundShipment } from './inboundShipment.entity.js';
import { InboundPlans } from './plans.service.js';
import { lockPart, tell } from './shipments.js';
import { refreshPart } from './stages.js';

const PREFIX = 'companyPrefix';

/**
 * Bookings at a network: the price is asked and confirmed, the intention is kept with its key before anything is asked, and the same key
 * again is the same booking. What is not answered is asked again under that key until it is known.
 */
@Injectable()
export class InboundBookings {
  constructor(
    private readonly db: Db,
    private readonly centers: Centers,
    private readonly house: HouseService,
    private readonly handover: HandoverService,
    private readonly catalog: CatalogService,
    private readonly plans: InboundPlans,
  ) {}

  prefix(sql: Sql = this.db): Promise<string | null> {
    return this.house.setting<string | null>(sql, PREFIX, null);
  }

  setPrefix(prefix: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, tx => this.house.set(tx, PREFIX, prefix));
  }

  /** What booking a part would cost now. Its boxes get their numbers, and what is asked for is kept as it was priced. */
  async price(partId: string, doer: Doer): Promise<InboundPrice> {
    await this.mustStand(partId);
    const rules = await this.rules(partId);
    const { network, asked } = await this.db.tx(doer, async tx => {
      const { shipment, part } = await lockPart(tx, partId);
      mustBeOpen(part);
      await this.number(tx, part, rules);
      const told = await this.asking(tx, shipment, part, rules);
      await tx.of(InboundPart).update(part.id, { asked: told as never });
      return { network: shipment.network, asked: told };
    });
    const answer = await this.centers.price(network, asked);
    if (answer.kind === 'silent') throw new Busy(answer.why, 'Try again in a minute; nothing was booked.');
    if (answer.kind !== 'answered') {
      await this.note(partId, answer.why);
      throw new Forbidden(answer.why, 'Give it up, or wait and ask again.');
    }
    await this.note(partId, null);
    const { feeMinor, freightMinor, currency } = answer.value;
    return {
      minor: feeMinor + freightMinor,
      currency,
      boxes: asked.boxes.length,
      units: asked.boxes.flatMap(b => b.lines).reduce((n, l) => n + l.units, 0),
    };
  }

  /** Nothing is booked that the network wants otherwise by now. */
  private async mustStand(partId: string): Promise<void> {
    const part = await this.db.of(InboundPart).findOneBy({ id: partId });
    if (!part || part.stage === 'Cancelled') return;
    const { no, network } = (await this.db.of(InboundShipment).findOneBy({ id: part.shipmentId }))!;
    const changed = (await this.plans.look(`IN-${no}`)).filter(c => c.center === part.center);
    if (changed.length > 0)
      throw new Forbidden(
        `${network} has changed its plan: ${changed.map(planChangeSays).join('; ')}.`,
        'Take its plan on the page of the shipment; there stands what must be repacked.',
      );
  }

  /** What the network of a part wants, asked before anything is locked; null while it has never told. */
  private async rules(partId: string): Promise<NetworkRules | null> {
    const part = await this.db.of(InboundPart).findOneBy({ id: partId });
    const shipment = part && (await this.db.of(InboundShipment).findOneBy({ id: part.shipmentId }));
    return shipment ? (await this.centers.rules(shipment.network)).rules : null;
  }

  private note(partId: string, why: string | null): Promise<void> {
    return this.db.tx({ personId: null, at: new Date() }, async tx => {
      const { shipment, part } = await lockPart(tx, partId);
      if (part.bookState !== 'none' && part.bookState !== 'refused') return;
      await tx.of(InboundPart).update(part.id, { why: why?.slice(0, 300) ?? null });
      await tx.tell('inbound', `IN-${shipment.no}`);
    });
  }

  /** Gives packed boxes the numbers of their shipping units. */
  private async number(tx: Tx, part: InboundPart, rules: NetworkRules | null): Promise<void> {
    const { orderId } = part;
    if (!orderId)
      throw new Forbidden('Nothing of it is reserved yet.', 'Reserve it and have it packed first.');
    const packed = (await packedOfOrder(tx, orderId))!;
    if (packed.boxes === 0 || packed.closed < packed.wanted)
      throw new Forbidden(
        `${packed.closed} of ${count(packed.wanted, 'unit')} for ${part.center} are packed in closed boxes.`,
        'Have the rest packed at the bench first.',
      );
    const prefix = await this.prefix(tx);
    if (!prefix)
      throw new Forbidden(
        'The house has no company prefix, so its boxes cannot be numbered.',
        'Give it on the list of shipments, under Company prefix.',
      );
    await numberBoxes(tx, part.id, orderId);
    await numberPallets(tx, part.id, (await this.pallets(tx, part, rules)).length);
    for (const { n } of await boxesWithout(tx, part.id)) {
      const sscc = ssccOf(prefix, Number(n));
      if (!sscc.ok) throw new Forbidden(sscc.problem, 'Give another company prefix.');
      await tx.of(InboundBoxRow).update(n, { sscc: sscc.value });
    }
  }

  /** What the network is told: every box with its number, weight and contents. */
  private async asking(
    sql: Sql,
    shipment: InboundShipment,
    part: InboundPart,
    rules: NetworkRules | null,
  ): Promise<NetworkBookingIn> {
    const boxes = (await boxesOf(sql, part.orderId!)).filter(b => b.closedAt !== null);
    const contents = await contentsOf(
      sql,
      boxes.map(b => b.id),
    );
    const way = fromJson<ChosenWay>(shipment.way);
    const numbers = await palletNumbers(sql, part.id);
    const unweighed = boxes.find(b => !b.weightMg);
    if (unweighed)
      throw new Forbidden(
        `The box PA-${unweighed.no} was not weighed.`,
        'Open it again at the bench and weigh it.',
      );
    return {
      number: `IN-${shipment.no}`,
      plan: shipment.planCode,
      center: part.center,
      placement: way.placement,
      form: way.form,
      freight: way.rates === 'theirs' ? way.carrier : null,
      handing: shipment.handing,
      door: shipment.door,
      pallets: (await this.pallets(sql, part, rules)).map(({ ids, height, weightMg }, i) => ({
        sscc: numbers[i]!.sscc,
        height,
        weightMg,
        boxes: ids.map(id => boxes.find(b => b.id === id)!.sscc!),
      })),
      boxes: boxes.map(b => ({
        sscc: b.sscc!,
        weightMg: b.weightMg!,
        lines: sumBySku(contents.filter(c => c.parcelId === b.id)),
      })),
    };
  }

  /** The pallets that the packed boxes of a part stand on; none where it goes as parcels. */
  private async pallets(sql: Sql, part: InboundPart, rules: NetworkRules | null): Promise<PalletOfBoxes[]> {
    const { way, network } = (await sql.of(InboundShipment).findOneBy({ id: part.shipmentId }))!;
    if (fromJson<ChosenWay>(way).form !== 'pallets') return [];
    if (!rules)
      throw new Busy(
        `${network} has not told what it wants of pallets.`,
        'Try again in a minute; nothing was booked.',
      );
    const kinds = await this.catalog.boxes(sql);
    const packed = (await boxesOf(sql, part.orderId!)).filter(b => b.closedAt !== null);
    const boxes = packed.map(({ id, boxCode, weightMg }) => {
      const { code, inner } = kinds.find(k => k.code === boxCode) ?? kinds.at(-1)!;
      return { id, code, inner, weightMg: weightMg ?? 0 };
    });
    const pallets = boxesOnPallets(rules.pallet, boxes);
    if (pallets.length === 0)
      throw new Forbidden(
        `A box for ${part.center} is too large or too heavy for a pallet of ${rules.pallet.name}.`,
        'Take something out of it at the bench, or put it into another box.',
      );
    return pallets;
  }

  /** Books a part at the price that was confirmed. The same key again changes nothing and gives what became of it. */
  async book(partId: string, key: string, priceMinor: number, doer: Doer): Promise<void> {
    const rules = await this.rules(partId);
    const begun = await this.db.tx(doer, tx => this.intend(tx, partId, key, priceMinor, rules));
    if (begun) await this.ask(partId, key, doer);
    const part = (await this.db.of(InboundPart).findOneBy({ id: partId }))!;
    if (part.bookKey !== key || part.bookState === 'booked') return;
    if (part.bookState === 'refused')
      throw new Forbidden(part.why ?? 'It was refused.', 'Ask for the price again, or give it up.');
    if (part.bookState === 'unknown')
      throw new Busy(
        `${part.why ?? 'The network did not answer.'} Whether it is booked is asked until it is known.`,
        'Wait a moment; it is never booked twice.',
      );
  }

  private async intend(
    tx: Tx,
    partId: string,
    key: string,
    priceMinor: number,
    rules: NetworkRules | null,
  ): Promise<boolean> {
    const { shipment, part } = await lockPart(tx, partId);
    if (part.bookKey === key) return part.bookState === 'asked';
    mustBeOpen(part);
    if (part.asked === null)
      throw new Forbidden(`What ${part.center} costs was not asked yet.`, 'Ask for the price first.');
    await lockAll(tx, { orders: [part.orderId!] });
    const now = await this.asking(tx, shipment, part, rules);
    if (JSON.stringify(fromJson(part.asked)) !== JSON.stringify(now))
      throw new TooLate('Its boxes were changed after the price was asked.', 'Ask for the price again.');
    await tx.of(InboundPart).update(part.id, {
      bookState: 'asked',
      bookKey: key,
      askedMinor: priceMinor,
      why: null,
    });
    await tx.tell('inbound', `IN-${shipment.no}`);
    return true;
  }

  /** Asks the network to book what was intended; asked again it is the same booking. */
  async ask(partId: string, key: string, doer: Doer): Promise<void> {
    const part = await this.db.of(InboundPart).findOneBy({ id: partId });
    if (!part || part.bookKey !== key || (part.bookState !== 'asked' && part.bookState !== 'unknown')) return;
    const shipment = (await this.db.of(InboundShipment).findOneBy({ id: part.shipmentId }))!;
    const answer = await this.centers.book(shipment.network, key, {
      ...fromJson<NetworkBookingIn>(part.asked),
      priceMinor: part.askedMinor!,
    });
    await this.db.tx(doer, tx => this.settle(tx, partId, key, answer));
  }

  private async settle(
    tx: Tx,
    partId: string,
    key: string,
    answer: CenterAnswer<NetworkBooking>,
  ): Promise<void> {
    const { shipment, part } = await lockPart(tx, partId);
    if (part.bookKey !== key || (part.bookState !== 'asked' && part.bookState !== 'unknown')) return;
    const parts = tx.of(InboundPart);
    if (answer.kind === 'silent' || answer.kind === 'unknown')
      await parts.update(part.id, { bookState: 'unknown', why: answer.why.slice(0, 300) });
    else if (answer.kind === 'refused') {
      await parts.update(part.id, { bookState: 'refused', why: answer.why.slice(0, 300) });
      await tell(tx, shipment.id, `${part.center} was not booked: ${answer.why}`, { partId });
    } else {
      const b = answer.value;
      await parts.update(part.id, {
        bookState: b.state === 'cancelled' ? 'cancelled' : 'booked',
        bookedMinor: b.priceMinor,
        currency: b.currency,
        bookNo: b.number,
        freeUntil: new Date(b.freeUntil),
        tracking: b.tracking as never,
        why:
          b.priceMinor > part.askedMinor!
            ? `${formatMoney(b.priceMinor, b.currency)} were charged, and ${formatMoney(part.askedMinor!, b.currency)} were confirmed: claim the rest.`
            : null,
      });
      await tell(
        tx,
        shipment.id,
        `${part.center} is booked as ${b.number} for ${formatMoney(b.priceMinor, b.currency)}.`,
        {
          partId,
        },
      );
    }
    await refreshPart(tx, part.id);
    await tx.tell('inbound', `IN-${shipment.no}`);
  }

  /** Calls a booking off; for nothing within the stated time. */
  async callOff(partId: string, doer: Doer): Promise<void> {
    const part = await this.db.of(InboundPart).findOneBy({ id: partId });
    if (part?.bookState !== 'booked')
      throw new Forbidden('That part is not booked.', 'Open the shipment anew under Inbound.');
    const shipment = (await this.db.of(InboundShipment).findOneBy({ id: part.shipmentId }))!;
    const answer = await this.centers.callOffBooking(shipment.network, part.bookKey!);
    if (answer.kind === 'silent')
      throw new Busy(answer.why, 'Try again; until it is known the booking counts as standing.');
    if (answer.kind !== 'answered' || answer.value.state !== 'cancelled')
      throw new Forbidden(
        answer.kind === 'answered' ? `It is ${answer.value.state}.` : answer.why,
        'It stays booked.',
      );
    await this.db.tx(doer, tx => this.calledOff(tx, partId, part.bookKey!));
  }

  async calledOff(tx: Tx, partId: string, key: string): Promise<void> {
    const { shipment, part } = await lockPart(tx, partId);
    if (part.bookKey !== key || part.bookState !== 'booked' || part.leftAt) return;
    await tx.of(InboundPart).update(part.id, { bookState: 'cancelled', bookedMinor: null });
    await tell(tx, shipment.id, `The booking ${part.bookNo} for ${part.center} was called off.`, { partId });
    await refreshPart(tx, part.id);
    await tx.tell('inbound', `IN-${shipment.no}`);
  }

  /** What the network’s carrier fetches leaves the house: its goods lie on the way from now on, and the network is told. */
  async leave(partId: string, doer: Doer): Promise<void> {
    const gone = await this.db.tx(doer, async tx => {
      const { shipment, part } = await lockPart(tx, partId);
      if (part.leftAt) return null;
      if (part.bookState !== 'booked')
        throw new Forbidden(`${part.center} is not booked yet.`, 'Book it first.');
      const way = fromJson<ChosenWay>(shipment.way);
      if (way.rates === 'ours')
        throw new Forbidden(
          'It goes by our own carrier.',
          'Buy the labels of its boxes under Parcels and hand them over at its departure.',
        );
      await lockAll(tx, { orders: [part.orderId!] });
      const boxes = await boxesOf(tx, part.orderId!);
      await lockAll(tx, { parcel: boxes.map(b => b.id) });
      await this.handover.leave(
        tx,
        boxes.map(b => ({ id: b.id, no: b.no, orderId: part.orderId! })),
      );
      await this.left(tx, shipment, part);
      return { network: shipment.network, key: part.bookKey! };
    });
    // When this is lost, the round that follows bookings tells it again.
    if (gone) await this.centers.tellLeft(gone.network, gone.key);
  }

  /** Notes that a part left the house. */
  async left(tx: Tx, shipment: InboundShipment, part: InboundPart): Promise<void> {
    await tx.of(InboundPart).update(part.id, { leftAt: tx.at });
    await tell(tx, shipment.id, `Left for ${part.center}.`, { partId: part.id });
    await refreshPart(tx, part.id);
    await tx.tell('inbound', `IN-${shipment.no}`);
  }
}

function mustBeOpen(part: InboundPart): void {
  if (part.stage === 'Cancelled') throw new Forbidden('That part was cancelled.', 'Begin another shipment.');
  if (part.bookState === 'booked')
    throw new Forbidden(
      `${part.center} is booked already, as ${part.bookNo}.`,
      'Call its booking off first.',
    );
  if (part.bookState === 'asked' || part.bookState === 'unknown')
    throw new Busy(
      `Whether ${part.center} is booked is not known yet.`,
      'Wait a moment; it is asked until it is known.',
    );
}

/** Units by SKU, whatever lot they are of. */
function sumBySku(rows: readonly { sku: string; units: number }[]): { code: string; units: number }[] {
  const sums = new Map<string, number>();
  for (const r of rows) sums.set(r.sku, (sums.get(r.sku) ?? 0) + r.units);
  return [...sums].map(([code, units]) => ({ code, units }));
}
