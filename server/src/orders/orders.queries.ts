import type { HistoryRow, OrderLineView, OrderQuery, OrderRow, OrderView, Page } from '@auk/contract';
import type { Hold, Stage, StopReason } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { escapeLike } from '../catalog/catalog.service.js';
import { Db, fromJson } from '../database/db.js';
import { NotHere } from '../http/problem.js';
import { parcelState } from '../parcels/parcelState.js';
import { emptyHolds } from './stages.js';

interface RowRecord {
  id: string;
  no: number;
  channelNumber: string;
  channel: string;
  buyer: string;
  shipTo: string;
  what: string | null;
  lines: number;
  units: number;
  stage: Stage;
  reason: string | null;
  parkedReason: string | null;
  shortOf: string | null;
  list: string | null;
  carrierName: string | null;
  cutOff: Date | null;
  promised: string | null;
  linesMinor: number;
  shippingMinor: number;
  currency: string;
  starred: number;
}

/** Columns of an order's row in lists; the reason under the stage is found beside it. */
const ROW = `SELECT o.id, o.no, o.channelNumber, c.name AS channel, o.buyer, o.shipTo, o.stage, o.promised, o.linesMinor, o.shippingMinor, o.currency, o.starred, o.parkedReason,
  d.carrierName, d.cutOff,
  (SELECT GROUP_CONCAT(l.title ORDER BY l.position SEPARATOR ', ') FROM orderLine l WHERE l.orderId = o.id) AS what,
  (SELECT COUNT(*) FROM orderLine l WHERE l.orderId = o.id) AS \`lines\`,
  (SELECT SUM(l.quantity) FROM orderLine l WHERE l.orderId = o.id) AS units,
  (SELECT s.says FROM stopReason s WHERE s.orderId = o.id AND s.liftedAt IS NULL ORDER BY s.id LIMIT 1) AS reason,
  IF(o.stage = 'Short', (SELECT GROUP_CONCAT(CONCAT(x.n, ' ', x.name) SEPARATOR ', ') FROM
    (SELECT p.orderId, pr.name, p.quantity - COALESCE((SELECT SUM(a.quantity) FROM allocation a WHERE a.partId = p.id), 0) AS n FROM linePart p JOIN product pr ON pr.id = p.productId) x
    WHERE x.orderId = o.id AND x.n > 0), NULL) AS shortOf,
  IF(o.stage = 'Listed', (SELECT CONCAT('PL-', MAX(t.no)) FROM pickStop s JOIN pickList t ON t.id = s.listId WHERE s.orderId = o.id), NULL) AS list
  FROM orders o JOIN channel c ON c.id = o.channelId LEFT JOIN departure d ON d.id = o.departureId`;

/** Reads of orders that are more than a find. */
@Injectable()
export class OrdersQueries {
  constructor(private readonly db: Db) {}

  /** Orders, newest number first, paged by number. */
  async list(q: OrderQuery): Promise<Page<OrderRow> & { count: number }> {
    const where: string[] = [];
    const params: unknown[] = [];
    const and = (sql: string, ...more: unknown[]) => {
      where.push(sql);
      params.push(...more);
    };
    if (q.stage === 'open' || !q.stage) and("o.stage NOT IN ('Departed', 'Cancelled')");
    else if (q.stage !== 'all') and('o.stage IN (?)', q.stage.split(','));
    if (q.channel) and('c.code = ?', q.channel);
    if (q.departure) and('o.departureId = ?', q.departure);
    if (q.reason)
      and(
        'EXISTS (SELECT 1 FROM stopReason s WHERE s.orderId = o.id AND s.liftedAt IS NULL AND s.code = ?)',
        q.reason,
      );
    if (q.words) {
      const like = `%${escapeLike(q.words)}%`;
      and(
        "(o.channelNumber LIKE ? OR o.buyer LIKE ? OR CONCAT('OR-', o.no) = ? OR o.mail LIKE ?)",
        like,
        like,
        q.words.toUpperCase(),
        like,
      );
    }
    const filter = where.length ? `WHERE ${where.join(' AND ')}` : '';
    const { n } = (await this.db.one<{ n: number }>(
      `SELECT COUNT(*) AS n FROM orders o JOIN channel c ON c.id = o.channelId ${filter}`,
      params,
    ))!;
    if (q.after) and('o.no < ?', Number(q.after));
    const rows = await this.db.rows<RowRecord>(
      `${ROW} ${where.length ? `WHERE ${where.join(' AND ')}` : ''} ORDER BY o.no DESC LIMIT ?`,
      [...params, q.size + 1],
    );
    const page = rows.slice(0, q.size);
    return { rows: page.map(toRow), next: rows.length > q.size ? String(page.at(-1)!.no) : null, count: n };
  }

  async one(id: string): Promise<OrderView> {
    const record = await this.db.one<
      RowRecord & { mail: string; placedAt: Date | null; payment: string; note: string; version: number }
    >(
      `${ROW.replace('SELECT o.id', 'SELECT o.mail, o.placedAt, o.payment, o.note, o.version, o.id')} WHERE o.id = ?`,
      [id],
    );
    if (!record) throw new NotHere('That order');
    const [lines, stops, parcels, lists, history] = await Promise.all([
      this.lines(id),
      this.stops(id),
      this.parcels(id),
      this.lists(id),
      this.history(id),
    ]);
    return {
      row: toRow(record),
      mail: record.mail,
      placedAt: record.placedAt?.toISOString() ?? null,
      payment: record.payment,
      shipTo: fromJson(record.shipTo),
      note: record.note,
      shippingMinor: record.shippingMinor,
      version: record.version,
      lines,
      stops,
      parcels,
      lists,
      history,
    };
  }

  private async lines(orderId: string): Promise<OrderLineView[]> {
    const lines = await this.db.rows<{
      id: string;
      channelSku: string;
      title: string;
      quantity: number;
      priceMinor: number;
      productId: string | null;
      sku: string;
      name: string;
      kind: string;
    }>(
      'SELECT l.id, l.channelSku, l.title, l.quantity, l.priceMinor, l.productId, p.sku, p.name, p.kind FROM orderLine l LEFT JOIN product p ON p.id = l.productId WHERE l.orderId = ? ORDER BY l.position',
      [orderId],
    );
    const parts = await this.db.rows<{
      id: string;
      lineId: string;
      productId: string;
      quantity: number;
      sku: string;
      name: string;
    }>(
      'SELECT t.id, t.lineId, t.productId, t.quantity, p.sku, p.name FROM linePart t JOIN product p ON p.id = t.productId WHERE t.orderId = ? ORDER BY t.id',
      [orderId],
    );
    const held = await this.db.rows<{ partId: string; hold: Hold; n: number }>(
      'SELECT partId, hold, SUM(quantity) AS n FROM allocation WHERE orderId = ? GROUP BY partId, hold',
      [orderId],
    );
    const holdsOf = (id: string) => ({
      ...emptyHolds(),
      ...Object.fromEntries(held.filter(h => h.partId === id).map(h => [h.hold, h.n])),
    });
    return lines.map(l => ({
      id: l.id,
      channelSku: l.channelSku,
      title: l.title,
      quantity: l.quantity,
      priceMinor: l.priceMinor,
      product: l.productId ? { id: l.productId, sku: l.sku, name: l.name, kind: l.kind } : null,
      parts: parts
        .filter(p => p.lineId === l.id)
        .map(({ lineId: _, ...p }) => ({ ...p, held: holdsOf(p.id) })),
    }));
  }

  private stops(orderId: string): Promise<StopReason[]> {
    return this.db.rows(
      'SELECT code, subject, says, cure FROM stopReason WHERE orderId = ? AND liftedAt IS NULL ORDER BY id',
      [orderId],
    );
  }

  private async parcels(orderId: string): Promise<OrderView['parcels']> {
    const rows = await this.db.rows<{
      no: number;
      closedAt: Date | null;
      handedOverAt: Date | null;
      departedAt: Date | null;
      state: string | null;
      carrier: string | null;
      service: string | null;
      tracking: string | null;
      minor: number | null;
      departure: string | null;
      departureNo: string | null;
    }>(
      `SELECT p.no, p.closedAt, p.handedOverAt, p.departedAt, b.state, b.carrierName AS carrier, b.serviceName AS service, b.tracking, COALESCE(b.chargedMinor, b.minor) AS minor, CONCAT(d.carrierName, ', ', d.name) AS departure, CONCAT('DE-', d.no) AS departureNo
       FROM parcel p LEFT JOIN purchase b ON b.liveParcel = p.id LEFT JOIN departure d ON d.id = p.departureId WHERE p.orderId = ? ORDER BY p.no`,
      [orderId],
    );
    return rows.map(({ no, closedAt, handedOverAt, departedAt, state, ...rest }) => ({
      ...rest,
      no: `PA-${no}`,
      state: parcelState({ closedAt, handedOverAt, departedAt, label: state }),
    }));
  }

  private async lists(orderId: string): Promise<string[]> {
    return (
      await this.db.rows<{ no: number }>(
        'SELECT DISTINCT l.no FROM pickStop s JOIN pickList l ON l.id = s.listId WHERE s.orderId = ? ORDER BY l.no',
        [orderId],
      )
    ).map(l => `PL-${l.no}`);
  }

  private async history(orderId: string): Promise<HistoryRow[]> {
    const rows = await this.db.rows<{ at: Date; person: string | null; says: string }>(
      'SELECT e.at, p.name AS person, e.says FROM orderEvent e LEFT JOIN person p ON p.id = e.personId WHERE e.orderId = ? ORDER BY e.id',
      [orderId],
    );
    return rows.map(r => ({ ...r, at: r.at.toISOString() }));
  }
}

function toRow(r: RowRecord): OrderRow {
  const to = fromJson<{ city: string; region: string; country: string }>(r.shipTo);
  const reason =
    r.stage === 'Stopped'
      ? r.reason
      : r.stage === 'Parked'
        ? r.parkedReason
        : r.stage === 'Short'
          ? r.shortOf
          : r.list;
  return {
    id: r.id,
    no: `OR-${r.no}`,
    channelNumber: r.channelNumber,
    channel: r.channel,
    buyer: r.buyer,
    town: [to.city, to.region, to.country === 'US' ? '' : to.country].filter(Boolean).join(', '),
    what: r.what ?? '',
    lines: r.lines,
    units: r.units ?? 0,
    stage: r.stage,
    reason,
    leavesWith: r.cutOff ? { carrier: r.carrierName!, cutOff: r.cutOff.toISOString() } : null,
    promised: r.promised,
    paidMinor: r.linesMinor + r.shippingMinor,
    currency: r.currency,
    starred: !!r.starred,
  };
}
