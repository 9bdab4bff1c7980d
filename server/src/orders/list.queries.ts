import {
  type Among,
  COUNTED,
  type OrderCount,
  type OrderFilter,
  type OrderQuery,
  type OrderRow,
  type Page,
} from '@auk/contract';
import { group, type Settled, type Stage } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, fromJson, NONE } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { stageCounts } from '../records/records.module.js';
import { byKey, type Cursor, cursorOf, type Key, keyOf, readCursor } from './cursor.js';
import {
  type BuiltFilter,
  buildFilter,
  type Condition,
  SORTS,
  type SortBy,
  TOGETHER,
} from './filter.queries.js';
import type { AllOrders } from './words.queries.js';

interface RowRecord {
  id: string;
  no: number;
  channelNumber: string;
  channel: string;
  buyer: string;
  mail: string;
  shipTo: string;
  country: string;
  stage: Stage;
  parkedReason: string | null;
  draftedAt: Date | null;
  carrierName: string | null;
  cutOff: Date | null;
  promised: string | null;
  placedAt: Date | null;
  settled: Settled;
  totalMinor: number;
  paidMinor: number;
  currency: string;
  starred: number;
  together: Buffer | null;
}

const JOINED =
  'FROM orders o JOIN channel c ON c.id = o.channelId LEFT JOIN departure d ON d.id = o.departureId';
const COLUMNS = `o.id, o.no, o.channelNumber, c.name AS channel, o.buyer, o.mail, o.shipTo, o.country, o.stage, o.parkedReason, o.draftedAt, o.promised, o.placedAt, o.settled,
  o.totalMinor, o.paidMinor, o.currency, o.starred, o.together, d.carrierName, d.cutOff`;
/** Of what a common word or product finds, so many are counted first; and more than any house has. */
const SOME = 6 * COUNTED;
const ALL = 1_000_000_000;
const BEFORE_LISTS = ['Incoming', 'Stopped', 'Parked', 'Short', 'Clear'];

/** The order list: filter, sort, page by key, counts. Ids of a page are found first, by an index; all else is read for those few. */
@Injectable()
export class OrderListQueries {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
  ) {}

  async list(q: OrderQuery, now: Date): Promise<Page<OrderRow> & { count: OrderCount }> {
    const filter = await buildFilter(this.db, q, await this.house.days(this.db, now));
    if (filter.few) return this.few(filter, q);
    const [page, count] = await Promise.all([this.page(filter, q), this.count(filter)]);
    return { rows: await this.rows(page.ids), next: page.next, count };
  }

  /** A page out of few orders: all of them are found in one go, so that neither counting nor sorting asks again. */
  private async few(filter: BuiltFilter, q: OrderQuery): Promise<Page<OrderRow> & { count: OrderCount }> {
    const sort = SORTS[q.sort];
    const found = await this.db.rows<Key>(
      `SELECT o.id, o.no, o.${sort.column} AS \`key\` FROM orders o ${whereOf(filter.where)}`,
      filter.where.flatMap(c => c.params),
    );
    const sorted = found.sort(byKey(sort));
    const after = q.after === undefined ? null : keyOf(sort, readCursor(q.after));
    const later = after === null ? 0 : sorted.findIndex(k => byKey(sort)(k, after) > 0);
    const from = later === -1 ? sorted.length : later;
    const page = sorted.slice(from, from + q.size);
    const count = { n: Math.min(found.length, COUNTED), over: found.length > COUNTED };
    const next = from + q.size < sorted.length ? cursorOf(sort, page.at(-1)!) : null;
    return { rows: await this.rows(page.map(k => k.id)), next, count };
  }

  /** How many orders a filter finds: exact up to 10,000 (for stages alone always, from the kept counters). */
  async countOf(f: OrderFilter, now: Date): Promise<OrderCount> {
    return this.count(await buildFilter(this.db, f, await this.house.days(this.db, now)));
  }

  /** Numbers among the orders of a filter, each with one press a question of its own. */
  async among(f: OrderFilter, now: Date): Promise<Among> {
    const filter = await buildFilter(this.db, f, await this.house.days(this.db, now));
    const plus = (sql: string): Promise<OrderCount> =>
      this.count({
        where: [...filter.where, { sql, params: [] }],
        stagesOnly: null,
        few: false,
        over: false,
      });
    const [stopped, short, together, starred] = await Promise.all([
      plus("o.stage = 'Stopped'"),
      plus("o.stage = 'Short'"),
      plus(TOGETHER),
      plus('o.starred = 1'),
    ]);
    return { stopped, short, together, starred };
  }

  /** The ids of all orders of a filter in its sort, up to `most`; for exports. */
  async ids(q: OrderQuery, most: number, now: Date): Promise<string[]> {
    const filter = await buildFilter(this.db, q, await this.house.days(this.db, now));
    const ids: string[] = [];
    for (let after: string | undefined = q.after; ids.length < most; ) {
      const page = await this.page(filter, { ...q, size: Math.min(5_000, most - ids.length), after });
      ids.push(...page.ids);
      if (!page.next) break;
      after = page.next;
    }
    return ids;
  }

  /** How the database would find the first page of a question; the benchmark prints it beside its figures. */
  async explain(q: OrderQuery, now: Date): Promise<Record<string, unknown>[]> {
    const { where } = await buildFilter(this.db, q, await this.house.days(this.db, now));
    const { sql, params } = statement(where, SORTS[q.sort], false, null, q.size + 1, false);
    return this.db.rows(`EXPLAIN ${sql}`, params);
  }

  /** The order before and the order after one, in the list it came from. */
  async beside(
    q: OrderQuery,
    id: string,
    now: Date,
  ): Promise<{ before: string | null; after: string | null }> {
    const sort = SORTS[q.sort];
    const own = await this.db.one<{ no: number; key: unknown }>(
      `SELECT no, ${sort.column} AS \`key\` FROM orders WHERE id = ?`,
      [id],
    );
    if (!own) return { before: null, after: null };
    const filter = await buildFilter(this.db, q, await this.house.days(this.db, now));
    const mark = cursorOf(sort, own);
    const [after, before] = await Promise.all([
      this.page(filter, { ...q, size: 1, after: mark }),
      this.page(filter, { ...q, size: 1, after: mark }, true),
    ]);
    return { before: before.ids[0] ?? null, after: after.ids[0] ?? null };
  }

  private async page(
    filter: BuiltFilter,
    q: Pick<OrderQuery, 'sort' | 'size' | 'after'>,
    back = false,
  ): Promise<{ ids: string[]; next: string | null }> {
    const sort = SORTS[q.sort];
    const cursor = q.after === undefined ? null : readCursor(q.after);
    const found: { id: string; no: number; key: unknown }[] = [];
    const phases: boolean[] = sort.empties ? (back ? [true, false] : [false, true]) : [false];
    for (const empty of phases) {
      if (found.length > q.size) break;
      if (cursor && cursor.empty !== empty && (back ? empty : !empty)) continue;
      const here = cursor?.empty === empty ? cursor : null;
      found.push(...(await this.phase(filter.where, sort, empty, here, q.size + 1 - found.length, back)));
    }
    const ids = found.slice(0, q.size);
    return { ids: ids.map(r => r.id), next: found.length > q.size ? cursorOf(sort, ids.at(-1)!) : null };
  }

  /** One run along an index: the orders that have a value of the sort's column, or those that have none. */
  private phase(
    where: readonly Condition[],
    sort: SortBy,
    empty: boolean,
    cursor: Cursor | null,
    size: number,
    back: boolean,
  ): Promise<{ id: string; no: number; key: unknown }[]> {
    const { sql, params } = statement(where, sort, empty, cursor, size, back);
    return this.db.rows(sql, params);
  }

  private async count(filter: BuiltFilter): Promise<OrderCount> {
    if (filter.over) return { n: COUNTED, over: true };
    if (filter.stagesOnly) return { n: await this.kept(filter.stagesOnly), over: false };
    const all = filter.where.find(c => c.all);
    if (!all?.all) return this.countFrom('orders o', [], filter.where);
    const where = filter.where.filter(c => c !== all || !all.all?.exact);
    // Some of what a common word or product finds is often enough to know that it is more than is counted.
    const some = await this.countAmong(all.all, where, where.length === 0 ? COUNTED + 1 : SOME);
    return some.over ? some : this.countAmong(all.all, where, ALL);
  }

  /** How many of the first `most` that each part of a condition finds meet the other conditions. */
  private countAmong(all: AllOrders, where: readonly Condition[], most: number): Promise<OrderCount> {
    const found = all.parts.map(p => `(${p.test} LIMIT ?)`).join(' UNION ');
    const params = all.parts.flatMap(p => [...p.params, most]);
    return this.countFrom(`(${found}) w STRAIGHT_JOIN orders o ON o.id = w.id`, params, where);
  }

  /** How many rows of a table expression meet conditions, up to what is counted. */
  private async countFrom(
    from: string,
    params: readonly unknown[],
    where: readonly Condition[],
  ): Promise<OrderCount> {
    const { n } = (await this.db.one<{ n: number }>(
      `SELECT COUNT(*) AS n FROM (SELECT 1 FROM ${from} ${whereOf(where)} LIMIT ?) x`,
      [...params, ...where.flatMap(c => c.params), COUNTED + 1],
    ))!;
    return n > COUNTED ? { n: COUNTED, over: true } : { n, over: false };
  }

  private async kept(stages: string[] | 'open' | 'all'): Promise<number> {
    const counts = await stageCounts(this.db);
    const wanted = (stage: Stage) =>
      stages === 'all' ||
      (stages === 'open' ? stage !== 'Departed' && stage !== 'Cancelled' : stages.includes(stage));
    return [...counts].reduce((n, [stage, k]) => (wanted(stage) ? n + k : n), 0);
  }

  /** The rows of orders, in the order of their ids given. */
  async rows(ids: readonly string[]): Promise<OrderRow[]> {
    if (ids.length === 0) return [];
    const [heads, lines, tags, reasons, lists, together] = await Promise.all([
      this.db.rows<RowRecord>(`SELECT ${COLUMNS} ${JOINED} WHERE o.id IN (?)`, [ids]),
      this.db.rows<{ orderId: string; title: string; quantity: number }>(
        'SELECT orderId, title, quantity FROM orderLine WHERE orderId IN (?) AND removedAt IS NULL ORDER BY orderId, position',
        [ids],
      ),
      this.db.rows<{ orderId: string; tag: string }>(
        'SELECT orderId, tag FROM orderTag WHERE orderId IN (?) ORDER BY tag',
        [ids],
      ),
      this.reasons(ids),
      this.lists(ids),
      this.together(ids),
    ]);
    const [linesOf, tagsOf] = [group(lines, l => l.orderId), group(tags, t => t.orderId)];
    const by = new Map(heads.map(h => [h.id, h]));
    return ids.flatMap(id => {
      const r = by.get(id);
      if (!r) return [];
      const own = linesOf.get(id) ?? [];
      return [
        {
          ...toRow(
            r,
            r.stage === 'Parked'
              ? r.parkedReason
              : r.draftedAt
                ? 'a draft'
                : (reasons.get(id) ?? lists.get(id) ?? null),
          ),
          what: own.map(l => l.title).join(', '),
          lines: own.length,
          units: own.reduce((n, l) => n + l.quantity, 0),
          tags: (tagsOf.get(id) ?? []).map(t => t.tag),
          together: together.get(id) ?? 0,
        },
      ];
    });
  }

  /** The first stop reason of Stopped orders, what Short ones lack, who sends those that are Elsewhere, and why it was cancelled. */
  private async reasons(ids: readonly string[]): Promise<Map<string, string>> {
    const stops = await this.db.rows<{ orderId: string; says: string }>(
      "SELECT s.orderId, s.says FROM stopReason s JOIN orders o ON o.id = s.orderId AND o.stage = 'Stopped' WHERE s.orderId IN (?) AND s.liftedAt IS NULL ORDER BY s.id DESC",
      [ids],
    );
    const short = await this.db.rows<{ orderId: string; says: string }>(
      `SELECT x.orderId, GROUP_CONCAT(CONCAT(x.n, ' ', x.name) SEPARATOR ', ') AS says FROM (
         SELECT p.orderId, y.name, p.quantity - COALESCE(SUM(a.quantity), 0) AS n FROM linePart p JOIN orders o ON o.id = p.orderId AND o.stage = 'Short' AND NOT p.optional JOIN product y ON y.id = p.productId
         LEFT JOIN allocation a ON a.partId = p.id WHERE p.orderId IN (?) GROUP BY p.id) x WHERE x.n > 0 GROUP BY x.orderId`,
      [ids],
    );
    const elsewhere = await this.db.rows<{ orderId: string; says: string }>(
      `SELECT e.orderId, CONCAT(COALESCE(s.name, e.center), IF(p.no IS NULL, '', CONCAT(', PO-', p.no))) AS says FROM sentElsewhere e JOIN orders o ON o.id = e.orderId AND o.stage = 'Elsewhere'
         LEFT JOIN supplier s ON s.id = e.supplierId LEFT JOIN purchaseOrder p ON p.id = e.purchaseOrderId WHERE e.orderId IN (?)`,
      [ids],
    );
    const cancelled = await this.db.rows<{ orderId: string; says: string }>(
      "SELECT e.orderId, REGEXP_REPLACE(e.says, '^Cancelled: ', '') AS says FROM orderEvent e JOIN orders o ON o.id = e.orderId AND o.stage = 'Cancelled' WHERE e.orderId IN (?) AND e.kind = 'cancelled' ORDER BY e.id",
      [ids],
    );
    return new Map([...stops, ...short, ...elsewhere, ...cancelled].map(r => [r.orderId, r.says]));
  }

  private async lists(ids: readonly string[]): Promise<Map<string, string>> {
    const rows = await this.db.rows<{ orderId: string; no: number }>(
      "SELECT s.orderId, MAX(l.no) AS no FROM pickStop s JOIN pickList l ON l.id = s.listId JOIN orders o ON o.id = s.orderId AND o.stage = 'Listed' WHERE s.orderId IN (?) GROUP BY s.orderId",
      [ids],
    );
    return new Map(rows.map(r => [r.orderId, `PL-${r.no}`]));
  }

  private async together(ids: readonly string[]): Promise<Map<string, number>> {
    const rows = await this.db.rows<{ id: string; n: number }>(
      `SELECT o.id, COUNT(*) AS n FROM orders o JOIN orders x ON x.together = o.together AND x.id <> o.id AND x.stage IN (?) AND x.draftedAt IS NULL
       WHERE o.id IN (?) AND o.stage IN (?) GROUP BY o.id`,
      [BEFORE_LISTS, [...ids, NONE], BEFORE_LISTS],
    );
    return new Map(rows.map(r => [r.id, r.n]));
  }
}

/** The statement that finds the keys of one page, by the sort's column and the order's number. */
function statement(
  where: readonly Condition[],
  sort: SortBy,
  empty: boolean,
  cursor: Cursor | null,
  size: number,
  back: boolean,
): { sql: string; params: unknown[] } {
  const down = sort.down !== back;
  const [than, way] = down ? ['<', 'DESC'] : ['>', 'ASC'];
  const c = `o.${sort.column}`;
  const conditions = [...where];
  if (sort.empties) conditions.push({ sql: `${c} IS ${empty ? '' : 'NOT '}NULL`, params: [] });
  if (cursor && (sort.column === 'no' || empty))
    conditions.push({ sql: `o.no ${than} ?`, params: [cursor.no] });
  else if (cursor)
    conditions.push({
      sql: `${c} ${than}= ? AND (${c} ${than} ? OR o.no ${than} ?)`,
      params: [cursor.key, cursor.key, cursor.no],
    });
  const order = sort.column === 'no' || empty ? `o.no ${way}` : `${c} ${way}, o.no ${way}`;
  return {
    sql: `SELECT o.id, o.no, ${c} AS \`key\` FROM orders o ${whereOf(conditions)} ORDER BY ${order} LIMIT ?`,
    params: [...conditions.flatMap(x => x.params), size],
  };
}

const whereOf = (conditions: readonly Condition[]): string =>
  conditions.length ? `WHERE ${conditions.map(c => c.sql).join(' AND ')}` : '';

function toRow(
  r: RowRecord,
  reason: string | null,
): Omit<OrderRow, 'what' | 'lines' | 'units' | 'tags' | 'together'> {
  const to = fromJson<{ city?: string; region?: string; country?: string }>(r.shipTo);
  return {
    id: r.id,
    no: `OR-${r.no}`,
    channelNumber: r.channelNumber,
    channel: r.channel,
    buyer: r.buyer,
    mail: r.mail,
    town: [to.city, to.region, to.country === 'US' ? '' : to.country].filter(Boolean).join(', '),
    country: r.country,
    stage: r.stage,
    reason,
    leavesWith: r.cutOff ? { carrier: r.carrierName!, cutOff: r.cutOff.toISOString() } : null,
    promised: r.promised,
    placedAt: r.placedAt?.toISOString() ?? null,
    payment: r.settled,
    totalMinor: r.totalMinor,
    paidMinor: r.paidMinor,
    currency: r.currency,
    starred: !!r.starred,
  };
}
