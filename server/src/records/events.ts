import type { Change } from '@auk/core';
import type { Row, Tx } from '../database/db.js';
import { OrderEvent } from './orderEvent.entity.js';

/** Appends rows to the history of orders. */
export const toHistory = (tx: Tx, rows: readonly Row[]): Promise<void> => tx.insert(OrderEvent, rows);

/** A row of an order's history. `changes` tells field by field what was before and after, `version` the order's version it led to. */
export function event(
  tx: Tx,
  orderId: string,
  kind: string,
  says: string,
  changes: readonly Change[] = [],
  version: number | null = null,
): Row {
  return {
    orderId,
    at: tx.at,
    personId: tx.personId,
    kind,
    says: says.slice(0, 600),
    changes: changes.length > 0 ? JSON.stringify(changes) : null,
    version,
  };
}

/** The same, done by a rule: its actor reads "book 15, rule 4". */
export const ruleEvent = (tx: Tx, orderId: string, actor: string, says: string): Row => ({
  ...event(tx, orderId, 'rule', says),
  personId: null,
  actor,
});
