import type { CountProposal, LedgerPage, LedgerRow, Page, StockQuery, StockRow } from '@auk/contract';
import { proposeCounts } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import { Db, fromJson, NONE } from '../database/db.js';
import { escapeLike } from '../database/escapeLike.js';
import { HouseService } from '../house/house.module.js';
import { NotHere } from '../http/problem.js';
import { PROMISED_FROM, PROMISED_KINDS } from './stock.service.js';

const SOON_DAYS = 60;
const LEDGER_ROWS = 100;
const CHART_DAYS = 60;
/** Errors of so many days make a place worth counting. */
const ERROR_DAYS = 60;
const CANDIDATES = 300;
const QUARTER_S = 900;
const DAY_MS = 86_400_000;
/** Kinds that lie in the house and are looked at by hand. */
const SHOWN_KINDS = `${PROMISED_KINDS}, 'bench', 'staging', 'quarantine'`;

interface LedgerRecord {
  id: number;
  at: Date;
  why: string;
  reason: string;
  causeId: string | null;
  quantity: number;
  fromCode: string;
  fromKind: string;
  toCode: string;
  toKind: string;
  lot: string | null;
  person: string | null;
}

/** Reads of stock: what lies where, what expires, what should be counted, and a product's ledger. */
@Injectable()
export class StockQueries {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
  ) {}

  /** Stock by product, place and lot, in the order of SKU and place. */
  async list(q: StockQuery, at: Date): Promise<Page<StockRow>> {
    const today = await this.house.today(this.db, at);
    const soon = DateTime.fromISO(today).plus({ days: SOON_DAYS }).toISODate()!;
    // Each word stands somewhere in the row, whatever stands between them.
    const likes = q.words.split(/\s+/).flatMap(w => (w === '' ? [] : [`%${escapeLike(w)}%`]));
    const conditions = [
      q.kind ? 'p.kind = ?' : `p.kind IN (${SHOWN_KINDS})`,
      ...likes.map(() => '(x.sku LIKE ? OR x.name LIKE ? OR p.code LIKE ? OR l.code LIKE ?)'),
      ...(q.expiring ? ['l.expiry <= ?'] : []),
      ...(q.after ? ["CONCAT(x.sku, '\\n', p.code, '\\n', COALESCE(l.code, '')) > ?"] : []),
    ];
    const rows = await this.db.rows<Omit<StockRow, 'state' | 'free'> & { listed: number }>(
      `SELECT CONCAT(x.sku, '\\n', p.code, '\\n', COALESCE(l.code, '')) AS \`key\`, x.sku, x.name, x.picture, p.code AS place, p.kind, p.zone, l.code AS lot, CAST(l.expiry AS CHAR) AS expiry,
         b.onHand, b.listed AS reserved FROM stockBalance b JOIN place p ON p.id = b.placeId JOIN product x ON x.id = b.productId
         LEFT JOIN lot l ON b.lotKey <> '${NONE}' AND l.id = b.lotKey
       WHERE b.onHand <> 0 AND ${conditions.join(' AND ')} ORDER BY \`key\` LIMIT ?`,
      [
        ...(q.kind ? [q.kind] : []),
        ...likes.flatMap(like => [like, like, like, like]),
        ...(q.expiring ? [soon] : []),
        ...(q.after ? [q.after] : []),
        q.size + 1,
      ],
    );
    const page = rows.slice(0, q.size).map(r => ({
      ...r,
      state:
        r.expiry === null || r.expiry > soon
          ? null
          : r.expiry <= today
            ? ('expired' as const)
            : ('soon' as const),
      free: r.onHand - r.reserved,
    }));
    return { rows: page, next: rows.length > q.size ? page.at(-1)!.key : null };
  }

  /** A product's moves, newest first, with what lay in places of stock after each; and the balance of the last days. */
  async ledger(sku: string, before: number | undefined, at: Date): Promise<LedgerPage> {
    const product = await this.db.one<{ id: string; sku: string; name: string }>(
      'SELECT id, sku, name FROM product WHERE sku = ?',
      [sku.toUpperCase()],
    );
    if (!product) throw new NotHere(`The product ${sku.slice(0, 60)}`);
    const stock = await this.db.one<{ onHand: number; reserved: number }>(
      `SELECT CAST(COALESCE(SUM(b.onHand), 0) AS INT) AS onHand, COALESCE((SELECT reserved FROM productStock WHERE productId = ?), 0) AS reserved
       FROM stockBalance b JOIN place p ON p.id = b.placeId AND p.kind IN (${PROMISED_KINDS}) WHERE b.productId = ?`,
      [product.id, product.id],
    );
    const moves = await this.db.rows<LedgerRecord>(
      `SELECT m.id, m.at, m.why, m.reason, m.causeId, m.quantity, f.code AS fromCode, f.kind AS fromKind, t.code AS toCode, t.kind AS toKind, l.code AS lot, n.name AS person
       FROM stockMove m JOIN place f ON f.id = m.fromPlaceId JOIN place t ON t.id = m.toPlaceId LEFT JOIN lot l ON l.id = m.lotId LEFT JOIN person n ON n.id = m.personId
       WHERE m.productId = ? ${before ? 'AND m.id < ?' : ''} ORDER BY m.id DESC LIMIT ?`,
      [product.id, ...(before ? [before] : []), LEDGER_ROWS + 1],
    );
    const later = before ? await this.changeSince(product.id, before) : 0;
    const shown = moves.slice(0, LEDGER_ROWS);
    const documents = await this.documents(shown);
    let onHand = stock!.onHand - later;
    const rows = shown.map((m): LedgerRow => {
      const change = changeOf(m);
      const row: LedgerRow = {
        id: m.id,
        at: m.at.toISOString(),
        why: m.why,
        reason: m.reason,
        from: placeWords(m.fromKind, m.fromCode),
        to: m.toKind === 'gone' && m.why === 'depart' ? 'away' : placeWords(m.toKind, m.toCode),
        lot: m.lot,
        quantity: m.quantity,
        change,
        onHand,
        person: m.person,
        document: documents.get(m.causeId ?? '') ?? null,
      };
      onHand -= change;
      return row;
    });
    return {
      sku: product.sku,
      name: product.name,
      onHand: stock!.onHand,
      reserved: stock!.reserved,
      days: before ? [] : await this.days(product.id, stock!.onHand, at),
      rows,
      next: moves.length > LEDGER_ROWS ? shown.at(-1)!.id : null,
    };
  }

  /** Products in places among which counts are proposed: found otherwise lately, of much value, not counted for long; some hundreds of each. */
  private async countable(at: Date): Promise<[productId: string, placeId: string][]> {
    const rows = await this.db.rows<{ productId: string; placeId: string }>(
      `(SELECT productId, IF(why = 'missing', fromPlaceId, toPlaceId) AS placeId FROM stockMove WHERE why IN ('missing', 'count') AND at > ? ORDER BY at DESC LIMIT ${CANDIDATES})
       UNION (SELECT productId, fromPlaceId FROM stockMove WHERE why = 'count' AND at > ? ORDER BY at DESC LIMIT ${CANDIDATES})
       UNION (SELECT productId, placeId FROM stockBalance FORCE INDEX (byCounted) WHERE onHand > 0 AND bounded ORDER BY countedAt LIMIT ${CANDIDATES})
       UNION (SELECT b.productId, b.placeId FROM (SELECT id FROM product ORDER BY valueMinor DESC LIMIT ${CANDIDATES}) v JOIN stockBalance b ON b.productId = v.id AND b.onHand > 0)`,
      [new Date(at.getTime() - ERROR_DAYS * DAY_MS), new Date(at.getTime() - ERROR_DAYS * DAY_MS)],
    );
    return rows.map(r => [r.productId, r.placeId]);
  }

  /** What should be counted next, by value and by errors. */
  async countProposals(at: Date): Promise<CountProposal[]> {
    const candidates = await this.countable(at);
    if (candidates.length === 0) return [];
    const rows = await this.db.rows<{
      place: string;
      sku: string;
      name: string;
      facts: string;
      onHand: number;
      countedAt: Date | null;
      cameAt: Date | null;
      errors: number;
    }>(
      `SELECT p.code AS place, x.sku, x.name, x.facts, CAST(SUM(b.onHand) AS INT) AS onHand,
         (SELECT MAX(c.at) FROM stockCount c WHERE c.productId = b.productId AND c.placeId = b.placeId) AS countedAt,
         (SELECT MIN(m.at) FROM stockMove m WHERE m.productId = b.productId AND m.toPlaceId = b.placeId) AS cameAt,
         (SELECT COUNT(*) FROM stockMove m WHERE m.productId = b.productId AND (m.fromPlaceId = b.placeId OR m.toPlaceId = b.placeId) AND m.why IN ('missing', 'count') AND m.at > ?
           AND m.at > COALESCE((SELECT MAX(c.at) FROM stockCount c WHERE c.productId = b.productId AND c.placeId = b.placeId AND c.expected = c.counted), '2000-01-01')) AS errors
       FROM stockBalance b JOIN place p ON p.id = b.placeId AND p.kind IN (${PROMISED_KINDS}) JOIN product x ON x.id = b.productId WHERE b.onHand > 0 AND (b.productId, b.placeId) IN (?) GROUP BY b.productId, b.placeId`,
      [new Date(at.getTime() - ERROR_DAYS * DAY_MS), candidates],
    );
    const byKey = new Map(rows.map(r => [`${r.sku}\n${r.place}`, r]));
    const proposed = proposeCounts(
      [...byKey].map(([key, r]) => ({
        key,
        onHand: r.onHand,
        valueMinor: Number(fromJson<Record<string, unknown>>(r.facts).valueMinor ?? 0),
        daysSinceCount: Math.floor((at.getTime() - (r.countedAt ?? r.cameAt ?? at).getTime()) / DAY_MS),
        errors: r.errors,
      })),
      25,
    );
    return proposed.map(({ key, why }) => {
      const r = byKey.get(key)!;
      return {
        place: r.place,
        sku: r.sku,
        name: r.name,
        onHand: r.onHand,
        countedAt: r.countedAt?.toISOString() ?? null,
        why:
          why === 'errors'
            ? `${r.errors} × found otherwise`
            : why === 'value'
              ? 'much value'
              : 'not counted for long',
      };
    });
  }

  private async changeSince(productId: string, id: number): Promise<number> {
    const row = await this.db.one<{ n: number }>(
      `SELECT CAST(COALESCE(SUM(m.quantity * ((t.kind IN (${PROMISED_KINDS})) - (f.kind IN (${PROMISED_KINDS})))), 0) AS INT) AS n
       FROM stockMove m JOIN place f ON f.id = m.fromPlaceId JOIN place t ON t.id = m.toPlaceId WHERE m.productId = ? AND m.id >= ?`,
      [productId, id],
    );
    return row!.n;
  }

  /** On hand at the end of each of the last days, folded back from today's. */
  private async days(productId: string, today: number, at: Date): Promise<LedgerPage['days']> {
    const { zone, iso, span } = await this.house.days(this.db, at);
    // The database knows no zones: moves are summed by the quarter of an hour, which every zone's days consist of.
    const rows = await this.db.rows<{ quarter: number; n: number }>(
      `SELECT CAST(FLOOR(UNIX_TIMESTAMP(m.at) / ${QUARTER_S}) AS INT) AS quarter, CAST(SUM(m.quantity * ((t.kind IN (${PROMISED_KINDS})) - (f.kind IN (${PROMISED_KINDS})))) AS INT) AS n
       FROM stockMove m JOIN place f ON f.id = m.fromPlaceId JOIN place t ON t.id = m.toPlaceId WHERE m.productId = ? AND m.at >= ? GROUP BY quarter`,
      [productId, span(1 - CHART_DAYS, 0)[0]],
    );
    const changes = new Map<string, number>();
    for (const r of rows) {
      const day = DateTime.fromSeconds(r.quarter * QUARTER_S, { zone }).toISODate()!;
      changes.set(day, (changes.get(day) ?? 0) + r.n);
    }
    const days: LedgerPage['days'] = [];
    let onHand = today;
    for (let i = 0; i < CHART_DAYS; i++) {
      const day = iso(-i);
      days.unshift({ day, onHand });
      onHand -= changes.get(day) ?? 0;
    }
    return days;
  }

  /** What caused moves, by cause: orders, pick lists, parcels, purchase orders, builds. */
  private async documents(
    moves: readonly LedgerRecord[],
  ): Promise<Map<string, { name: string; path: string }>> {
    const ids = [...new Set(moves.flatMap(m => m.causeId ?? []))];
    if (ids.length === 0) return new Map();
    const rows = await this.db.rows<{ id: string; name: string; path: string }>(
      `SELECT s.id, CONCAT('PL-', l.no, ' for ', o.channelNumber) AS name, CONCAT('/orders/', o.id) AS path FROM pickStop s JOIN pickList l ON l.id = s.listId JOIN orders o ON o.id = s.orderId WHERE s.id IN (?)
       UNION ALL SELECT c.id, CONCAT('PA-', c.no), CONCAT('/orders/', c.orderId) FROM parcel c WHERE c.id IN (?)
       UNION ALL SELECT o.id, o.channelNumber, CONCAT('/orders/', o.id) FROM orders o WHERE o.id IN (?)
       UNION ALL SELECT l.id, CONCAT('PO-', o.no), CONCAT('/receiving/PO-', o.no) FROM purchaseLine l JOIN purchaseOrder o ON o.id = l.orderId WHERE l.id IN (?)
       UNION ALL SELECT b.id, CONCAT('BU-', b.no), CONCAT('/builds/BU-', b.no) FROM build b WHERE b.id IN (?)`,
      [ids, ids, ids, ids, ids],
    );
    return new Map(rows.map(r => [r.id, { name: r.name, path: r.path }]));
  }
}

/** What a move does to the stock that may be promised: -quantity, 0 or quantity. */
const changeOf = (m: LedgerRecord): number =>
  m.quantity * (Number(PROMISED_FROM.has(m.toKind)) - Number(PROMISED_FROM.has(m.fromKind)));

/** A place in words: places of no walls by what they are. */
function placeWords(kind: string, code: string): string {
  const words: Record<string, string> = {
    outside: 'outside',
    gone: 'written off',
    missing: 'not found',
    made: 'the build',
    parcel: 'parcel',
  };
  return words[kind] ?? code;
}
