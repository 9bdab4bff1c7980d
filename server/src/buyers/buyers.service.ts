import type { BuyerPage, MessageIn, ThreadRow, ThreadView } from '@auk/contract';
import { isOver, type Stage } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { IsNull } from 'typeorm';
import { Db, type Doer, type Sql, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere, TooOften } from '../http/problem.js';
import { buyerToken, MailDesk, Mails, MailWays, orderNoOf, PLAIN_COLOUR } from '../mails/mails.module.js';
import { PrintingService } from '../printing/printing.module.js';
import { event, lockOrders, toHistory } from '../records/records.module.js';
import {
  type BuyersOrder,
  besideMessages,
  contentsOf,
  eventsOf,
  linesOf,
  messagesOf,
  orderById,
  orderByNo,
  parcelsOf,
  wroteLately,
} from './buyers.queries.js';
import { OrderMessage } from './orderMessage.entity.js';

/** A buyer's page can be opened for so many days after the last parcel arrived. */
const OPEN_DAYS = 90;
const DAY_MS = 86_400_000;
/** A buyer may write so often. */
const MOST = { hour: 5, day: 20 };

const STAGES: Partial<Record<Stage, BuyerPage['stage']>> = {
  Listed: 'prepared',
  Picked: 'prepared',
  Packed: 'packed',
  Labelled: 'packed',
  Departed: 'left',
  Cancelled: 'cancelled',
};

/** What buyers see of their orders behind an unguessable link, and what is said with them. */
@Injectable()
export class Buyers {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly mails: Mails,
    private readonly desk: MailDesk,
    private readonly ways: MailWays,
    private readonly printing: PrintingService,
  ) {}

  async page(token: string, now: Date): Promise<BuyerPage> {
    return this.pageOf(await this.behind(token, now));
  }

  async logo(token: string, now: Date): Promise<{ bytes: Buffer; type: string }> {
    const { order } = await this.behind(token, now);
    return this.desk.logo(order.channelId);
  }

  /** The label for the way back of one of the order's parcels, counted from 1. */
  async returnLabel(token: string, seq: number, now: Date): Promise<Buffer> {
    const parcel = (await this.behind(token, now)).parcels[seq - 1];
    if (!parcel?.returns) throw new NotHere('A return label of this parcel', 'Ask the shop for one.');
    return this.printing.returnLabel(parcel.no);
  }

  /** Keeps what a buyer wrote, once, and tells the house. */
  async write(token: string, { key, text }: MessageIn, at: Date): Promise<BuyerPage> {
    const { order } = await this.behind(token, at);
    await this.db.tx({ personId: null, at }, async tx => {
      await lockOrders(tx, [order.id]);
      if (await this.isThere(tx, key, order.id)) return;
      const wrote = (await wroteLately(tx, order.id))!;
      if (wrote.hour >= MOST.hour || wrote.day >= MOST.day)
        throw new TooOften(
          'Many messages came in from here.',
          'They are all read. Write again in an hour, or answer a mail of ours.',
          3600,
        );
      await tx.insert(OrderMessage, [{ id: key, orderId: order.id, sender: 'buyer', text, at }]);
      await toHistory(tx, [event(tx, order.id, 'message', 'The buyer wrote a message.')]);
      const subject = `${order.buyer} wrote about ${order.channelNumber}`;
      await this.mails.alert(tx, 'message', order, key, subject, text);
      await tx.tell('messages', order.id);
    });
    return this.page(token, at);
  }

  /** All that was said about an order, oldest first. */
  async thread(orderId: string): Promise<ThreadView> {
    const order = await this.order(this.db, orderId);
    const said = await messagesOf(this.db, orderId);
    const beside = await besideMessages(this.db, orderId);
    const rows: (Omit<ThreadRow, 'at'> & { at: Date })[] = [
      ...said.map(m => ({
        id: m.id,
        at: m.at,
        kind: m.sender === 'buyer' ? ('buyer' as const) : ('house' as const),
        text: m.text,
        by: m.sender === 'buyer' ? order.buyer : m.person,
        state: m.sender === 'buyer' ? (m.readAt ? null : ('new' as const)) : m.mailed,
      })),
      ...beside,
    ];
    rows.sort((a, b) => a.at.getTime() - b.at.getTime() || a.id.localeCompare(b.id));
    const { pages } = await this.ways.way(this.db);
    return {
      rows: rows.map(({ at, ...r }) => ({ ...r, at: at.toISOString() })),
      link: `${pages}/b/${buyerToken(order.no)}`,
      mail: order.mail,
      unread: said.filter(m => m.sender === 'buyer' && !m.readAt).length,
    };
  }

  /** Writes to a buyer: it stands on the buyer's page, and goes out by mail where there is an address. It answers what was unread. */
  async answer(orderId: string, { key, text }: MessageIn, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      await lockOrders(tx, [orderId]);
      const order = await this.order(tx, orderId);
      if (await this.isThere(tx, key, orderId)) return;
      await tx.insert(OrderMessage, [
        { id: key, orderId, sender: 'staff', text, at: tx.at, personId: tx.personId, readAt: tx.at },
      ]);
      await this.mails.due(tx, [{ orderId, moment: 'message', cause: key, words: { message: text } }]);
      await toHistory(tx, [event(tx, order.id, 'message', `Written to the buyer: “${text.slice(0, 200)}”`)]);
      await this.seenIn(tx, orderId);
    });
  }

  /** Somebody of the house has seen to what the buyer wrote. */
  seen(orderId: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      await this.order(tx, orderId);
      await this.seenIn(tx, orderId);
    });
  }

  private async seenIn(tx: Tx, orderId: string): Promise<void> {
    await tx.of(OrderMessage).update({ orderId, sender: 'buyer', readAt: IsNull() }, { readAt: tx.at });
    await tx.tell('messages', orderId);
  }

  /** Whether a message was kept under this key before; one of another order is refused. */
  private async isThere(tx: Tx, key: string, orderId: string): Promise<boolean> {
    const known = await tx.of(OrderMessage).findOneBy({ id: key });
    if (known && known.orderId !== orderId)
      throw new Forbidden(
        'The key of this message was used for another.',
        'Open the page anew and write again.',
      );
    return known !== null;
  }

  private async order(sql: Sql, id: string): Promise<BuyersOrder> {
    const order = await orderById(sql, id);
    if (!order) throw new NotHere('That order');
    return order;
  }

  /** The order behind a link. A wrong link and one that ended are refused in the same words. */
  private async behind(token: string, now: Date) {
    const no = orderNoOf(token);
    const order = no === null ? null : await orderByNo(this.db, no);
    const parcels = order ? await parcelsOf(this.db, order.id) : [];
    const ended = order ? endOf(order, parcels) : null;
    if (!order || (ended && now.getTime() >= ended.getTime()))
      throw new NotHere(
        'The page behind this link',
        'It is open until 90 days after delivery. Answer a mail of the shop instead.',
      );
    return { order, parcels, ended };
  }

  private async pageOf({ order, parcels, ended }: Awaited<ReturnType<Buyers['behind']>>): Promise<BuyerPage> {
    const labels = parcels.flatMap(p => p.labelId ?? []);
    const [lines, contents, events, messages] = [
      await linesOf(this.db, order.id),
      await contentsOf(this.db, order.id),
      labels.length > 0 ? await eventsOf(this.db, labels) : [],
      await messagesOf(this.db, order.id),
    ];
    const { zone } = await this.house.warehouse(this.db);
    return {
      brand: order.brand,
      colour: order.colour ?? PLAIN_COLOUR,
      hasLogo: !!order.hasLogo,
      number: order.channelNumber,
      zone,
      stage: stageOf(order.stage, parcels),
      promised: order.promised,
      lines,
      parcels: parcels.map(p => ({
        carrier: p.carrier,
        tracking: p.tracking,
        left: p.departedAt?.toISOString() ?? null,
        arrives: p.expected ?? p.arrives,
        state: p.state,
        returns: !!p.returns,
        contents: contents
          .filter(c => c.parcelId === p.id)
          .map(({ title, quantity }) => ({ title, quantity })),
        events: events
          .filter(e => e.labelId === p.labelId)
          .map(({ at, kind, says, place }) => ({ at: at.toISOString(), kind, says, place })),
      })),
      messages: messages.map(m => ({
        id: m.id,
        sender: m.sender === 'buyer' ? 'buyer' : 'house',
        text: m.text,
        at: m.at.toISOString(),
      })),
      until: ended ? await this.house.today(this.db, new Date(ended.getTime() - 1)) : null,
    };
  }
}

type Sent = Awaited<ReturnType<typeof parcelsOf>>[number];

/** When the page closes: so many days after the last parcel arrived or came back, or after the order was cancelled; null while it goes on. */
function endOf(order: BuyersOrder, parcels: readonly Sent[]): Date | null {
  if (order.cancelledAt) return new Date(order.cancelledAt.getTime() + OPEN_DAYS * DAY_MS);
  if (order.stage !== 'Departed' || parcels.length === 0) return null;
  const ends = parcels.map(p => {
    if (p.state && isOver(p.state)) return p.since!.getTime();
    // One that nobody asks after any more is taken to have arrived on its day.
    return p.asked || !p.departedAt ? null : Date.parse(p.arrives ?? p.departedAt.toISOString().slice(0, 10));
  });
  return ends.includes(null) ? null : new Date(Math.max(...(ends as number[])) + OPEN_DAYS * DAY_MS);
}

function stageOf(stage: Stage, parcels: readonly Sent[]): BuyerPage['stage'] {
  const states = parcels.map(p => p.state);
  if (stage === 'Departed' && states.some(s => s === 'coming back' || s === 'back')) return 'coming back';
  if (stage === 'Departed' && states.length > 0 && states.every(s => s === 'delivered')) return 'arrived';
  return STAGES[stage] ?? 'taken';
}
