import { COUNTED, type OrderFilter, type OrderSort } from '@auk/contract';
import type { Product } from '../catalog/product.entity.js';
import type { Channel } from '../channels/channel.entity.js';
import { NONE, type Sql } from '../database/db.js';
import type { Days } from '../house/house.module.js';
import type { OrderLine } from '../records/orderLine.entity.js';
import { stageCounts } from '../records/records.module.js';
import { type AllOrders, FEW, type OrderWords, wordsFound } from './words.queries.js';

/** A condition of SQL over `orders o`, with its parameters. */
export interface Condition {
  sql: string;
  params: unknown[];
  /** Set when it names orders by their ids. */
  few?: boolean;
  /** How to find all orders of the condition: counting begins there. */
  all?: AllOrders;
}

/** A sort: its column, whether it runs down, and whether the column may be empty (those come last). */
export interface SortBy {
  column: 'no' | 'promised' | 'leavesAt' | 'totalMinor' | 'placedAt';
  down: boolean;
  empties: boolean;
}

export const SORTS: Record<OrderSort, SortBy> = {
  newest: { column: 'no', down: true, empties: false },
  oldest: { column: 'no', down: false, empties: false },
  promised: { column: 'promised', down: false, empties: true },
  leaves: { column: 'leavesAt', down: false, empties: true },
  total: { column: 'totalMinor', down: true, empties: false },
  placed: { column: 'placedAt', down: true, empties: true },
};

/** What a filter came to: its conditions, and whether it asks for nothing but stages (then the kept counters answer). */
export interface BuiltFilter {
  where: Condition[];
  stagesOnly: string[] | 'open' | 'all' | null;
  /** True when a condition names the orders by their ids, or words are looked for among few: then all are read and sorted in one go. */
  few: boolean;
  /** True when it is known already that more are found than are counted. */
  over: boolean;
}

/** Turns the filter sentence into conditions. What is selective by itself (words, a product, a tag, a reason) is looked up first, so that the rest is read for few orders. */
export async function buildFilter(sql: Sql, f: OrderFilter, days: Days): Promise<BuiltFilter> {
  const where: Condition[] = [];
  const and = (text: string, ...params: unknown[]) => where.push({ sql: text, params });
  const stages =
    f.stage === undefined || f.stage === 'open' ? 'open' : f.stage === 'all' ? 'all' : f.stage.split(',');
  if (stages === 'open') and('o.isOpen = 1');
  else if (stages !== 'all') and('o.stage IN (?)', stages);
  const plain = where.length;
  if (f.channel)
    and(
      'o.channelId = ?',
      (await sql.one<Pick<Channel, 'id'>>('SELECT id FROM channel WHERE code = ?', [f.channel]))?.id ?? NONE,
    );
  if (f.departure) and('o.departureId = ?', f.departure);
  if (f.payment) and('o.settled = ?', f.payment);
  if (f.country) and('o.country = ?', f.country.toUpperCase());
  if (f.starred) and('o.starred = 1');
  if (f.reason)
    and('o.id IN (SELECT s.orderId FROM stopReason s WHERE s.liftedAt IS NULL AND s.code = ?)', f.reason);
  if (f.tag) and('o.id IN (SELECT t.orderId FROM orderTag t WHERE t.tag = ?)', f.tag);
  if (f.together) and(TOGETHER);
  if (f.wrote)
    and("o.id IN (SELECT m.orderId FROM orderMessage m WHERE m.sender = 'buyer' AND m.readAt IS NULL)");
  const product = f.product ? await productCondition(sql, f.product) : null;
  if (product) where.push(product);
  if (f.leaves) where.push(leaves(f.leaves, days));
  if (f.promised) where.push(promised(f.promised, days));
  if (f.placed) where.push(placed(f.placed, days));
  const of = f.words ? await among(sql, stages, where.length) : null;
  const found = f.words && of ? await wordsFound(sql, f.words, of) : null;
  const words = found && wordsCondition(found);
  if (words) where.push(words);
  const few = Boolean(product?.few || words?.few) || of === 'few';
  const over = found !== null && 'many' in found;
  return { where, stagesOnly: where.length === plain ? stages : null, few, over };
}

/** Among how many orders words are looked for: few by the kept counters, all, or those that other conditions leave. */
async function among(
  sql: Sql,
  stages: string[] | 'open' | 'all',
  conditions: number,
): Promise<'few' | 'others' | 'all'> {
  if (stages === 'all') return conditions === 0 ? 'all' : 'others';
  const counts = await stageCounts(sql);
  const wanted = (stage: string) =>
    stages === 'open' ? stage !== 'Departed' && stage !== 'Cancelled' : stages.includes(stage);
  const n = [...counts].reduce((sum, [stage, k]) => (wanted(stage) ? sum + k : sum), 0);
  return n <= COUNTED ? 'few' : 'others';
}

/** Orders that could travel with another open one: same buyer and address, neither on a list. */
export const TOGETHER = `o.stage IN ('Incoming', 'Stopped', 'Parked', 'Short', 'Clear') AND o.together IS NOT NULL AND EXISTS (
  SELECT 1 FROM orders x WHERE x.together = o.together AND x.id <> o.id AND x.stage IN ('Incoming', 'Stopped', 'Parked', 'Short', 'Clear') AND x.draftedAt IS NULL)`;

const WITH_PRODUCT = 'SELECT DISTINCT orderId AS id FROM orderLine WHERE productId = ? AND removedAt IS NULL';

async function productCondition(sql: Sql, sku: string): Promise<Condition> {
  const id = (await sql.one<Pick<Product, 'id'>>('SELECT id FROM product WHERE sku = ?', [sku.toUpperCase()]))
    ?.id;
  const few = await someOrdersWith(sql, id ?? NONE, FEW + 1);
  if (few.length <= FEW) return named([...new Set(few.map(r => r.orderId))]);
  // Compared, not asked by EXISTS, so that each order is tested for itself instead of all orders with the product being gathered first.
  return {
    sql: '(SELECT 1 FROM orderLine l WHERE l.orderId = o.id AND l.productId = ? AND l.removedAt IS NULL LIMIT 1) = 1',
    params: [id],
    all: { parts: [{ test: WITH_PRODUCT, params: [id!] }], exact: true },
  };
}

const named = (ids: readonly string[]): Condition => ({
  sql: 'o.id IN (?)',
  params: [[...ids, NONE]],
  few: true,
});

function wordsCondition(found: OrderWords): Condition {
  return 'ids' in found ? named(found.ids) : { sql: found.test, params: found.params, all: found.all };
}

function leaves(f: string, days: Days): Condition {
  if (f === 'never') return { sql: 'o.leavesAt IS NULL', params: [] };
  if (f === 'late') return { sql: 'o.isOpen = 1 AND o.leavesAt < ?', params: [days.now] };
  const [from, to] = f === 'today' ? days.span(0, 1) : f === 'tomorrow' ? days.span(1, 2) : days.dated(f);
  return { sql: 'o.leavesAt >= ? AND o.leavesAt < ?', params: [from, to] };
}

function promised(f: string, days: Days): Condition {
  if (f === 'none') return { sql: 'o.promised IS NULL', params: [] };
  if (f === 'past') return { sql: 'o.promised < ?', params: [days.iso(0)] };
  if (f === 'week') return { sql: 'o.promised >= ? AND o.promised < ?', params: [days.iso(0), days.iso(7)] };
  return { sql: 'o.promised = ?', params: [f === 'today' ? days.iso(0) : f] };
}

function placed(f: string, days: Days): Condition {
  const [from, to] =
    f === 'today'
      ? days.span(0, 1)
      : f === 'week'
        ? days.span(-6, 1)
        : f === 'month'
          ? days.span(-29, 1)
          : days.dated(f);
  return { sql: 'o.placedAt >= ? AND o.placedAt < ?', params: [from, to] };
}

export function someOrdersWith(
  sql: Sql,
  productId: string,
  most: number,
): Promise<Pick<OrderLine, 'orderId'>[]> {
  return sql.rows('SELECT orderId FROM orderLine WHERE productId = ? AND removedAt IS NULL LIMIT ?', [
    productId,
    most,
  ]);
}
