import {
  type HistoryRow,
  type KnownBuyer,
  type OrderLineView,
  type OrderMoney,
  type OrderNoteView,
  OrderParcel,
  type OrderView,
  type ParcelListRow,
} from '@auk/contract';
import {
  type Address,
  type Change,
  convert,
  documentTotals,
  type Hold,
  missingFacts,
  type OrderDocument,
  type OrderTotals,
  openBalance,
  type Payment,
  type StopReason,
  settledWord,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, fromJson } from '../database/db.js';
import { escapeLike } from '../database/escapeLike.js';
import { HouseService } from '../house/house.module.js';
import { NotHere } from '../http/problem.js';
import { openDifferences, toOpen } from '../intake/intake.module.js';
import { ParcelsQueries } from '../parcels/parcels.module.js';
import { CatalogService, factsHeld } from '../products/products.module.js';
import { addressOf, emptyHolds, loadOrders, Undoing } from '../records/records.module.js';
import { OrderListQueries } from './list.queries.js';

/** The whole story of one order. */
@Injectable()
export class OrdersQueries {
  constructor(
    private readonly db: Db,
    private readonly catalog: CatalogService,
    private readonly lists: OrderListQueries,
    private readonly undoing: Undoing,
    private readonly parcels: ParcelsQueries,
    private readonly house: HouseService,
  ) {}

  /** An order's whole story. It is read in several statements: where the order changed between them, it is read once more. */
  async one(id: string): Promise<OrderView> {
    for (let tries = 1; ; tries++) {
      const view = await this.read(id);
      const now = await this.db.one<{ version: number }>('SELECT version FROM orders WHERE id = ?', [id]);
      if (now?.version === view.version || tries === MOST_READS) return view;
    }
  }

  private async read(id: string): Promise<OrderView> {
    const order = (await loadOrders(this.db, [id])).get(id);
    if (!order) throw new NotHere('That order');
    const totals = documentTotals(order.document);
    const { head } = order.document;
    const [[row], parked, lines, stops, notes, parcels, lists, related, history, differences, undoes] =
      await Promise.all([
        this.lists.rows([id]),
        this.db.one<{ parkWord: string | null; placedAt: Date | null; mergedIntoId: string | null }>(
          'SELECT parkWord, placedAt, mergedIntoId FROM orders WHERE id = ?',
          [id],
        ),
        this.lines(id, totals),
        this.stops(id),
        this.notes(id),
        this.parcels.ofOrder(id),
        this.pickLists(id),
        this.related(id),
        this.history(id),
        openDifferences(this.db, [id]),
        this.undoing.what(this.db, id, true, true),
      ]);
    return {
      row: row!,
      mail: String(head.mail),
      placedAt: parked?.placedAt?.toISOString() ?? null,
      payment: head.payment as Payment,
      settled: settledWord(head.payment as Payment, Number(head.paidMinor), totals.total),
      shipTo: addressOf('shipTo', head) ?? ({ ...EMPTY } as Address),
      billTo: addressOf('billTo', head),
      pickUpPoint: String(head.pickUpPoint ?? ''),
      note: String(head.note ?? ''),
      serviceAsked: String(head.serviceAsked ?? ''),
      shipBy: head.shipBy as string | null,
      weightOverrideMg: head.weightOverrideMg as number | null,
      money: moneyOf(head, totals, parked?.mergedIntoId ? 'merged' : row!.stage),
      draft: order.draft,
      parkWord: parked?.parkWord ?? null,
      lines,
      stops,
      differences: (differences.get(id) ?? []).map(d => ({ id: d.id, ...toOpen(d, order.currency) })),
      notes,
      parcels: parcels.map(p => OrderParcel.parse(p)),
      labelsMinor: await this.costOf(parcels, order.currency),
      lists,
      related,
      undoes: undoes.state === 'nothing' ? null : undoes.says,
      history,
      version: order.version,
    };
  }

  /** Buyers of earlier orders whose name or mail begins like the words, the latest address of each first. */
  async buyers(words: string): Promise<KnownBuyer[]> {
    const like = `${escapeLike(words)}%`;
    const terms = (words.toLowerCase().match(/[\p{L}\p{N}]{3,}/gu) ?? []).map(w => `+${w}*`).join(' ');
    const rows = await this.db.rows<{ mail: string; buyer: string; shipTo: string }>(
      `SELECT mail, buyer, shipTo, no FROM orders WHERE buyer LIKE ? AND draftedAt IS NULL
       UNION SELECT mail, buyer, shipTo, no FROM orders WHERE mail LIKE ? AND draftedAt IS NULL
       ${terms ? 'UNION SELECT mail, buyer, shipTo, no FROM orders WHERE MATCH (buyer, mail) AGAINST (? IN BOOLEAN MODE) AND draftedAt IS NULL' : ''} ORDER BY no DESC LIMIT 200`,
      [like, like, ...(terms ? [terms] : [])],
    );
    const buyers = new Map<string, KnownBuyer>();
    for (const r of rows) {
      const key = `${r.mail}\n${r.buyer}`.toLowerCase();
      const known = buyers.get(key);
      if (known) known.orders += 1;
      else buyers.set(key, { mail: r.mail, orders: 1, shipTo: fromJson(r.shipTo) });
    }
    return [...buyers.values()].slice(0, 8);
  }

  private async lines(orderId: string, totals: OrderTotals): Promise<OrderLineView[]> {
    const lines = await this.db.rows<
      Omit<OrderLineView, 'total' | 'product' | 'parts'> & { productId: string | null }
    >(
      'SELECT id, lineKey AS `key`, channelSku, title, quantity, priceMinor, taxPpm, taxMinor, weightMg, leaveOut, units, productId FROM orderLine WHERE orderId = ? AND removedAt IS NULL ORDER BY position',
      [orderId],
    );
    const parts = await this.db.rows<{
      id: string;
      lineId: string;
      productId: string;
      quantity: number;
      optional: number;
      sku: string;
      name: string;
    }>(
      'SELECT t.id, t.lineId, t.productId, t.quantity, t.optional, p.sku, p.name FROM linePart t JOIN product p ON p.id = t.productId WHERE t.orderId = ? AND t.quantity > 0 ORDER BY t.id',
      [orderId],
    );
    const held = await this.db.rows<{ partId: string; hold: Hold; n: number }>(
      'SELECT partId, hold, SUM(quantity) AS n FROM allocation WHERE orderId = ? GROUP BY partId, hold',
      [orderId],
    );
    const products = await this.catalog.products(this.db, [
      ...new Set(lines.flatMap(l => l.productId ?? [])),
    ]);
    const holdsOf = (id: string) => ({
      ...emptyHolds(),
      ...Object.fromEntries(held.filter(h => h.partId === id).map(h => [h.hold, h.n])),
    });
    return lines.map(({ productId, ...l }, i) => {
      const p = productId ? products.get(productId)! : null;
      return {
        ...l,
        // A line that the document had not yet is there when it is read once more.
        total: totals.lines[i] ?? NO_MONEY,
        product: p && {
          id: p.id,
          sku: p.sku,
          name: p.name,
          kind: p.kind,
          picture: p.picture,
          missing: missingFacts(factsHeld(p)).filter(m => m.serious),
        },
        parts: parts
          .filter(t => t.lineId === l.id)
          .map(({ lineId: _, ...t }) => ({ ...t, optional: !!t.optional, held: holdsOf(t.id) })),
      };
    });
  }

  private stops(orderId: string): Promise<StopReason[]> {
    return this.db.rows(
      'SELECT code, subject, says, cure FROM stopReason WHERE orderId = ? AND liftedAt IS NULL ORDER BY id',
      [orderId],
    );
  }

  private async notes(orderId: string): Promise<OrderNoteView[]> {
    const rows = await this.db.rows<Omit<OrderNoteView, 'at' | 'confirm'> & { at: Date; confirm: number }>(
      'SELECT n.id, n.kind, n.text, n.confirm, n.word, n.at, p.name AS person FROM orderNote n LEFT JOIN person p ON p.id = n.personId WHERE n.orderId = ? AND n.removedAt IS NULL ORDER BY n.id',
      [orderId],
    );
    return rows.map(n => ({ ...n, confirm: !!n.confirm, at: n.at.toISOString() }));
  }

  /** What labels cost together in the order's currency; null where there is none or a rate is missing. */
  private async costOf(parcels: readonly ParcelListRow[], currency: string): Promise<number | null> {
    const bought = parcels.filter(p => p.minor !== null);
    if (bought.length === 0) return null;
    const { currency: house } = await this.house.warehouse(this.db);
    const rates = await this.house.exchangeRates(this.db, await this.house.today(this.db, new Date()));
    const costs = bought.map(p => convert(p.minor!, p.currency, currency, rates, house));
    return costs.includes(null) ? null : (costs as number[]).reduce((a, b) => a + b, 0);
  }

  private async pickLists(orderId: string): Promise<string[]> {
    const rows = await this.db.rows<{ no: number }>(
      'SELECT DISTINCT l.no FROM pickStop s JOIN pickList l ON l.id = s.listId WHERE s.orderId = ? ORDER BY l.no',
      [orderId],
    );
    return rows.map(l => `PL-${l.no}`);
  }

  private related(orderId: string): Promise<OrderView['related']> {
    const before = "('Incoming', 'Stopped', 'Parked', 'Short', 'Clear')";
    return this.db.rows(
      `SELECT x.id, x.channelNumber AS number, x.stage, 'split' AS how FROM orders o JOIN orders x ON x.id = o.splitOfId WHERE o.id = ?
       UNION ALL SELECT x.id, x.channelNumber, x.stage, 'split' FROM orders x WHERE x.splitOfId = ?
       UNION ALL SELECT x.id, x.channelNumber, x.stage, 'split' FROM orders o JOIN orders x ON x.splitOfId = o.splitOfId AND x.id <> o.id WHERE o.id = ?
       UNION ALL SELECT x.id, x.channelNumber, x.stage, 'merged' FROM orders x WHERE x.mergedIntoId = ?
       UNION ALL SELECT x.id, x.channelNumber, x.stage, 'merged' FROM orders o JOIN orders x ON x.id = o.mergedIntoId WHERE o.id = ?
       UNION ALL SELECT x.id, x.channelNumber, x.stage, 'can travel along' FROM orders o JOIN orders x ON x.together = o.together AND x.id <> o.id
         WHERE o.id = ? AND o.stage IN ${before} AND x.stage IN ${before} AND x.draftedAt IS NULL AND o.draftedAt IS NULL AND NOT x.splitOfId <=> o.id AND NOT o.splitOfId <=> x.id`,
      [orderId, orderId, orderId, orderId, orderId, orderId],
    );
  }

  private async history(orderId: string): Promise<HistoryRow[]> {
    const rows = await this.db.rows<{
      at: Date;
      person: string | null;
      says: string;
      changes: string | null;
    }>(
      'SELECT e.at, COALESCE(p.name, e.actor) AS person, e.says, e.changes FROM orderEvent e LEFT JOIN person p ON p.id = e.personId WHERE e.orderId = ? ORDER BY e.id',
      [orderId],
    );
    return rows.map(r => ({
      at: r.at.toISOString(),
      person: r.person,
      says: r.says,
      changes: r.changes ? fromJson<Change[]>(r.changes) : [],
    }));
  }
}

/** An order that changes all the time is shown as it was read last. */
const MOST_READS = 5;
const NO_MONEY: OrderTotals['lines'][number] = { goods: 0, discount: 0, shipping: 0, tax: 0, total: 0 };

const EMPTY = {
  name: '',
  company: '',
  line1: '',
  line2: '',
  city: '',
  region: '',
  postcode: '',
  country: '',
  phone: '',
};

/** What an order comes to and what is open of it: what was put together with another is paid there, and what is cancelled costs nothing. */
function moneyOf(head: OrderDocument['head'], totals: OrderTotals, stands: string): OrderMoney {
  const paidMinor = Number(head.paidMinor);
  const wanted = stands === 'Cancelled' ? 0 : totals.total;
  return {
    goodsMinor: totals.goods,
    discountMinor: totals.discount,
    shippingMinor: totals.shipping,
    taxMinor: totals.tax,
    totalMinor: totals.total,
    paidMinor,
    balanceMinor: stands === 'merged' ? 0 : openBalance(head.payment as Payment, paidMinor, wanted),
  };
}
