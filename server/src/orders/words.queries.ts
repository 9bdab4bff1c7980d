import { COUNTED } from '@auk/contract';
import type { Sql } from '../database/db.js';
import { escapeLike } from '../database/escapeLike.js';
import type { Order } from '../records/order.entity.js';

/** Up to so many orders are named by their ids; more are tested one by one in the order of the sort. */
export const FEW = 20_000;

/** More orders than this whose number begins so are found along the index of numbers instead. */
const FEW_NUMBERS = 2_000;

/** A test, as SQL, with its parameters. */
export interface Test {
  test: string;
  params: string[];
}

/**
 * Orders found by words: their ids when they are few, else a test of one order. With the test may come `all`: the statement that
 * finds the ids of them all (and some more, when a word is left out of the index), by which they are counted sooner than one by one.
 */
export type OrderWords = { ids: string[] } | (Test & { many?: boolean; all?: AllOrders });

/** Statements that together find the ids of all orders of a condition, and some more unless it is `exact`. */
export interface AllOrders {
  parts: Test[];
  exact: boolean;
}

const BY_BUYER = 'SELECT id FROM orders WHERE MATCH (buyer, mail) AGAINST (? IN BOOLEAN MODE)';
const BY_TITLE =
  'SELECT orderId AS id FROM orderLine WHERE MATCH (title) AGAINST (? IN BOOLEAN MODE) AND removedAt IS NULL';

const BY_NUMBER = 'SELECT id FROM orders WHERE channelNumber LIKE ?';

/** Shortest word that the full-text index holds. */
const SHORTEST = 3;
/** Words that the full-text index leaves out (InnoDB's own list, the part that people type). */
const LEFT_OUT = new Set(
  'about are com for from how that the this was what when where who will with und www'.split(' '),
);

/**
 * Finds orders by number (Auk's, or the channel's from its beginning), else by words that all begin words of buyer and mail, or all
 * begin words of one title sold. What looks like a number and is one finds nothing else. `among` says what else is asked: among few
 * orders each is tested at once; when nothing else is asked, more than are counted need not be found.
 */
export async function wordsFound(
  sql: Sql,
  text: string,
  among: 'few' | 'others' | 'all' = 'others',
): Promise<OrderWords> {
  const numbered = await byNumber(sql, text.trim());
  const isNumber = /^\S*[\d-]\S*$/.test(text.trim());
  if (isNumber && numbered.length > FEW_NUMBERS)
    return { test: 'o.channelNumber LIKE ?', params: [`${escapeLike(text.trim())}%`] };
  if (isNumber && numbered.length > 0) return { ids: numbered };
  const words = text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
  const test = oneByOne(words, text.trim());
  const indexed = words.filter(w => w.length >= SHORTEST && !LEFT_OUT.has(w));
  if (words.length === 0) return { ids: numbered };
  if (indexed.length === 0 || among === 'few') return test;
  const match = indexed.map(w => `+${w}*`).join(' ');
  if (among === 'all' && isKnownMany(match)) return { ...test, many: true };
  const most = among === 'all' ? COUNTED : FEW;
  const ids = new Set<string>(numbered);
  for (const q of [BY_BUYER, BY_TITLE]) {
    for (const r of await sql.rows<{ id: string }>(`${q} LIMIT ?`, [match, most + 1])) ids.add(r.id);
    if (ids.size <= most) continue;
    if (among === 'all') {
      if (indexed.length === words.length) noteMany(match);
      return { ...test, many: true };
    }
    return {
      ...test,
      all: {
        parts: [
          { test: BY_BUYER, params: [match] },
          { test: BY_TITLE, params: [match] },
          { test: BY_NUMBER, params: [`${escapeLike(text.trim()).toUpperCase()}%`] },
        ],
        exact: indexed.length === words.length,
      },
    };
  }
  return { ids: indexed.length === words.length ? [...ids] : await tested(sql, [...ids], test) };
}

/** Words that were in more orders than are counted, and until when that is believed: orders are never deleted, and seldom lose a word. */
const many = new Map<string, number>();
const BELIEVED_MS = 10 * 60_000;
const MOST_KEPT = 500;

const isKnownMany = (match: string): boolean => (many.get(match) ?? 0) > Date.now();

function noteMany(match: string): void {
  if (many.size >= MOST_KEPT) many.clear();
  many.set(match, Date.now() + BELIEVED_MS);
}

/** Orders whose number begins so, as typed or in capitals, or that are ours by OR- and digits. */
async function byNumber(sql: Sql, text: string): Promise<string[]> {
  const own = /^(?:or-)?(\d{1,9})$/i.exec(text);
  const like = `${escapeLike(text)}%`;
  const rows = await ordersNumbered(sql, like, like.toUpperCase(), own ? Number(own[1]) : -1);
  return rows.map(r => r.id);
}

/** The test of one order by words, for words that are in very many. */
function oneByOne(words: readonly string[], text: string): Test {
  const begins = words.map(w => `(^|[^[:alnum:]])${w}`);
  const buyer = words.map(() => "CONCAT(o.buyer, ' ', o.mail) REGEXP ?").join(' AND ');
  const title = words.map(() => 'l.title REGEXP ?').join(' AND ');
  return {
    test: `(o.channelNumber LIKE ? OR (${buyer}) OR EXISTS (SELECT 1 FROM orderLine l WHERE l.orderId = o.id AND l.removedAt IS NULL AND ${title}))`,
    params: [`${escapeLike(text).toUpperCase()}%`, ...begins, ...begins],
  };
}

async function tested(sql: Sql, ids: string[], { test, params }: Test): Promise<string[]> {
  if (ids.length === 0) return [];
  const rows = await sql.rows<{ id: string }>(`SELECT o.id FROM orders o WHERE o.id IN (?) AND ${test}`, [
    ids,
    ...params,
  ]);
  return rows.map(r => r.id);
}

export function ordersNumbered(
  sql: Sql,
  like: string,
  upper: string,
  no: number,
): Promise<Pick<Order, 'id'>[]> {
  return sql.rows(
    'SELECT id FROM orders WHERE channelNumber LIKE ? UNION SELECT id FROM orders WHERE channelNumber LIKE ? UNION SELECT id FROM orders WHERE no = ? LIMIT ?',
    [like, upper, no, FEW],
  );
}
