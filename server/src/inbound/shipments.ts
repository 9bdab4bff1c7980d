import type { NetworkRules } from '@auk/contract';
import { convert, type ExchangeRates } from '@auk/core';
import type { Sql, Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { InboundEvent } from './inboundEvent.entity.js';
import { InboundPart } from './inboundPart.entity.js';
import { InboundShipment } from './inboundShipment.entity.js';

const NUMBER = /^IN-(\d{1,9})$/i;

/** A shipment by its number, such as IN-77. */
export async function shipmentBy(sql: Sql, no: string): Promise<InboundShipment> {
  const number = Number(NUMBER.exec(no.trim())?.[1] ?? -1);
  const found = await sql.of(InboundShipment).findOneBy({ no: number });
  if (!found) throw new NotHere(`The shipment ${no.slice(0, 20)}`, 'Look for it under Inbound.');
  return found;
}

/** The same, locked before the orders of its parts, as all do. */
export async function lockShipment(tx: Tx, no: string): Promise<InboundShipment> {
  const seen = await shipmentBy(tx, no);
  await lockAll(tx, { inboundShipment: [seen.id] });
  return (await tx.of(InboundShipment).findOneBy({ id: seen.id }))!;
}

/** A part with its shipment locked. */
export async function lockPart(
  tx: Tx,
  partId: string,
): Promise<{ shipment: InboundShipment; part: InboundPart }> {
  const seen = await tx.of(InboundPart).findOneBy({ id: partId });
  if (!seen) throw new NotHere('That part of the shipment', 'Open the shipment anew under Inbound.');
  await lockAll(tx, { inboundShipment: [seen.shipmentId] });
  const shipment = (await tx.of(InboundShipment).findOneBy({ id: seen.shipmentId }))!;
  return { shipment, part: (await tx.of(InboundPart).findOneBy({ id: partId }))! };
}

/** Only a draft that nothing is reserved for yet is changed. */
export function mustBeDraft(shipment: InboundShipment, parts: readonly InboundPart[]): void {
  if (shipment.stage !== 'Draft' || parts.some(p => p.orderId !== null))
    throw new Forbidden(
      `${shipment.name} is ${shipment.stage === 'Draft' ? 'reserved' : shipment.stage}; its goods are on their way through the house.`,
      'Cancel it, which gives tasks to put its goods back, and begin another.',
    );
}

/** Keeps what was done with a shipment. */
export const tell = (
  tx: Tx,
  shipmentId: string,
  says: string,
  more: Partial<Pick<InboundEvent, 'partId' | 'code' | 'sscc' | 'at'>> = {},
): Promise<void> =>
  tx.insert(InboundEvent, [
    { shipmentId, at: tx.at, personId: tx.personId, says: says.slice(0, 300), ...more },
  ]);

/** The rules of a network with their money in the house's currency; null where no rate is known. */
export function inHouseMoney(rules: NetworkRules, house: string, rates: ExchangeRates): NetworkRules | null {
  if (rules.currency === house) return rules;
  if (convert(100, rules.currency, house, rates, house) === null) return null;
  const money = (minor: number): number => convert(minor, rules.currency, house, rates, house)!;
  const orNone = (minor: number | null): number | null => (minor === null ? null : money(minor));
  return {
    ...rules,
    currency: house,
    feeMinor: { 'one dock': orNone(rules.feeMinor['one dock']), spread: orNone(rules.feeMinor.spread) },
    storageMinor: { near: money(rules.storageMinor.near), deep: money(rules.storageMinor.deep) },
    preparation: rules.preparation.map(p => ({ ...p, feeMinor: orNone(p.feeMinor) })),
    freight: rules.freight.map(f => ({
      ...f,
      pieceMinor: money(f.pieceMinor),
      kilogramMinor: money(f.kilogramMinor),
      fetchMinor: money(f.fetchMinor),
      homeMinor: money(f.homeMinor),
      hardMinor: money(f.hardMinor),
    })),
  };
}
