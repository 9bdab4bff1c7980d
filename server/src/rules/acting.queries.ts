import type { Moment, Ruled } from '@auk/core';
import type { Sql } from '../database/db.js';
import type { RuleDeed } from './ruleDeed.entity.js';
import type { RuleOutcome } from './ruleOutcome.entity.js';

/** What a book decided for an order at a moment, or at the press of a button. */
export interface OutcomeOf extends Pick<RuleOutcome, 'orderId' | 'button' | 'bookNo' | 'at'> {
  moment: Moment;
  ruled: Ruled;
}

/** What books decided for orders before; `ruled` as it is stored. */
export function outcomesOf(
  sql: Sql,
  orderIds: readonly string[],
): Promise<(Omit<OutcomeOf, 'ruled'> & Pick<RuleOutcome, 'ruled'>)[]> {
  return sql.rows('SELECT orderId, moment, button, ruled, bookNo, at FROM ruleOutcome WHERE orderId IN (?)', [
    orderIds,
  ]);
}

/** What rules did to orders and do not do again. */
export function alreadyDone(
  sql: Sql,
  orderIds: readonly string[],
): Promise<Pick<RuleDeed, 'orderId' | 'ruleId' | 'what'>[]> {
  return sql.rows('SELECT orderId, ruleId, what FROM ruleDeed WHERE orderId IN (?)', [orderIds]);
}

/** Outcomes of so many orders, with all that they were decided by, after one order. */
export function outcomesAfter(
  sql: Sql,
  after: string,
  orders: number,
): Promise<(Pick<RuleOutcome, 'orderId' | 'button' | 'ruled' | 'ground' | 'bookNo'> & { moment: Moment })[]> {
  return sql.rows(
    `SELECT o.orderId, o.moment, o.button, o.bookNo, o.ground, o.ruled FROM ruleOutcome o
     JOIN (SELECT DISTINCT orderId FROM ruleOutcome WHERE orderId > ? ORDER BY orderId LIMIT ?) x ON x.orderId = o.orderId ORDER BY o.orderId`,
    [after, orders],
  );
}
