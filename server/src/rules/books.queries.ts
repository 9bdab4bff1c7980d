import type { Sql } from '../database/db.js';
import type { RuleBookRow } from './ruleBook.entity.js';

export type BookRow = Pick<RuleBookRow, 'no' | 'book' | 'note' | 'at'> & { person: string | null };

/** The book that runs. */
export function lastBook(sql: Sql): Promise<Pick<RuleBookRow, 'no' | 'book'> | null> {
  return sql.one('SELECT no, book FROM ruleBook ORDER BY no DESC LIMIT 1');
}

/** All versions, the newest first, with who saved them. */
export function bookVersions(sql: Sql): Promise<BookRow[]> {
  return sql.rows(
    'SELECT b.no, b.book, b.note, b.at, p.name AS person FROM ruleBook b LEFT JOIN person p ON p.id = b.personId ORDER BY b.no DESC',
  );
}

/** On how many orders each rule of a version acted, or did a deed. */
export function actedCounts(
  sql: Sql,
  no: number,
  how: '$.acted[*]' | '$.deeds[*].by',
): Promise<{ ruleId: string; orders: number }[]> {
  return sql.rows(
    `SELECT t.ruleId, COUNT(DISTINCT o.orderId) AS orders FROM ruleOutcome o, JSON_TABLE(o.ruled, '${how}' COLUMNS (ruleId VARCHAR(36) PATH '$')) t
     WHERE o.bookNo = ? GROUP BY t.ruleId`,
    [no],
  );
}

/** Ids of the orders that are open, the most urgent first. */
export function openOrders(sql: Sql, most: number): Promise<{ id: string }[]> {
  return sql.rows(
    'SELECT id FROM orders WHERE isOpen = 1 AND draftedAt IS NULL ORDER BY leavesAt IS NULL, leavesAt, no LIMIT ?',
    [most],
  );
}

/** Ids of the orders that came last, the newest first. */
export function lastOrders(sql: Sql, most: number): Promise<{ id: string }[]> {
  return sql.rows('SELECT id FROM orders WHERE draftedAt IS NULL ORDER BY no DESC LIMIT ?', [most]);
}
