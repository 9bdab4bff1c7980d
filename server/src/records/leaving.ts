import type { ChosenService, ServiceOptions } from '@auk/contract';
import type { DecidedBy, DecidedField } from '@auk/core';
import { In } from 'typeorm';
import { fromJson, type Sql, type Tx } from '../database/db.js';
import { setDeparture } from './leaving.queries.js';
import { Shipment } from './shipment.entity.js';

/** Plans orders, and their shipments, for a departure (null: none is known yet). */
export async function leaveWith(
  tx: Tx,
  orderIds: readonly string[],
  departureId: string | null,
): Promise<void> {
  if (orderIds.length === 0) return;
  await setDeparture(tx, departureId, orderIds);
  await tx.of(Shipment).update({ orderId: In(orderIds) }, { departureId });
}

/** What rules decided for an order, with the book, and the number and name of each rule that decided. */
export interface RuledShipment {
  book: number;
  fields: Partial<Record<DecidedField, DecidedBy & { no: number; name: string }>>;
  /** Keys of the lines that have a parcel of their own. */
  apart?: readonly string[];
}

/** Whether line `l` has a parcel of its own by what rules decided for shipment `s`. */
export const APART = "JSON_CONTAINS(JSON_EXTRACT(s.ruled, '$.apart'), JSON_QUOTE(l.lineKey))";

export const ruledOf = (ruled: unknown): RuledShipment | null =>
  ruled ? fromJson<RuledShipment>(ruled) : null;

/** The service, boxes and what else is wanted for an order, whoever decided it; `by` is a rule's name where none was chosen by hand. */
export interface WantedService {
  service: Pick<ChosenService, 'carrier' | 'account' | 'service'> | null;
  boxes: readonly string[];
  options: ServiceOptions;
  by: string | null;
}

/** Puts together what a person chose and what rules decided; the hand stands above, field by field. */
export function wantedOf(row: { chosen: unknown; ruled: unknown }): WantedService {
  const chosen = row.chosen ? fromJson<ChosenService>(row.chosen) : null;
  const ruled = ruledOf(row.ruled);
  const { service, box, signature, declare } = ruled?.fields ?? {};
  const [carrier = '', code = '', ...account] = String(service?.value ?? '').split(' ');
  const byRule = service ? { carrier, service: code, account: account.join(' ') } : null;
  const rule = chosen ? null : (service ?? box ?? signature ?? declare);
  return {
    service: chosen ?? byRule,
    boxes: chosen && chosen.boxes.length > 0 ? chosen.boxes : box ? [String(box.value)] : [],
    options: {
      ...(signature?.value === true && { signature: true }),
      ...(declare?.value === true && { insured: true }),
      ...(typeof declare?.value === 'number' && { valueMinor: declare.value }),
      ...chosen?.options,
    },
    by: rule ? `book ${ruled!.book}, rule ${rule.no} “${rule.name}”` : null,
  };
}

/** What is wanted for an order. */
export async function wantedFor(sql: Sql, orderId: string): Promise<WantedService> {
  const shipment = await sql.of(Shipment).findOneBy({ orderId, seq: 1 });
  return wantedOf({ chosen: shipment?.chosen ?? null, ruled: shipment?.ruled ?? null });
}

/** Notes the service that a person chose for an order; null frees it. */
export async function chooseFor(tx: Tx, orderId: string, chosen: ChosenService | null): Promise<void> {
  await tx.of(Shipment).update({ orderId }, { chosen: chosen as never });
}

/** Notes what rules decided for orders. */
export async function ruleFor(tx: Tx, orderIds: readonly string[], ruled: RuledShipment): Promise<void> {
  await tx.of(Shipment).update({ orderId: In(orderIds) }, { ruled: ruled as never });
}
