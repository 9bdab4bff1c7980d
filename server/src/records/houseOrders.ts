import type { Sql } from '../database/db.js';
import { Forbidden } from '../http/problem.js';
import { buildOfOrder, inboundOfOrder } from './houseOrders.queries.js';

/** The channel of orders that are the parts of builds: the house's own, picked like any other. */
export const BUILDS = 'build';
/** The channel of orders that are shipments to fulfillment centers: the house's own, picked and packed like any other. */
export const INBOUND = 'inbound';
/** The channels of the house's own orders. */
export const HOUSE_CHANNELS = [BUILDS, INBOUND];
/** The channel of orders that people type. */
export const HAND = 'hand';

/** Refuses what is done to an order of a buyer when the order is the parts of a build. */
export async function refuseBuild(sql: Sql, orderId: string): Promise<void> {
  const build = await buildOfOrder(sql, orderId);
  if (build)
    throw new Forbidden(
      `BU-${build.no} is a build: these are the parts of a kit, no buyer’s order.`,
      'Open the build under Kits; it is finished or given up there.',
    );
}

/** Refuses what changes an order of a buyer when the order is the house's own. */
export async function refuseHouseOrder(sql: Sql, orderId: string): Promise<void> {
  await refuseBuild(sql, orderId);
  const inbound = await inboundOfOrder(sql, orderId);
  if (inbound)
    throw new Forbidden(
      `IN-${inbound.no} is a shipment to ${inbound.center}, no buyer’s order.`,
      'Open the shipment under Inbound; it is changed or cancelled there.',
    );
}

/** Refuses a label for a box of a shipment that the network's own carrier fetches: it would be paid twice. */
export async function refuseTheirs(sql: Sql, orderId: string, parcelNo: number): Promise<void> {
  const inbound = await inboundOfOrder(sql, orderId);
  if (inbound?.theirs)
    throw new Forbidden(
      `PA-${parcelNo} is a box of IN-${inbound.no} and goes by the carrier of the network.`,
      'Its label comes with the booking, under Inbound.',
    );
}

/** Refuses that a box is packed otherwise after its network was told what lies in it. */
export async function refuseTold(sql: Sql, orderId: string, parcelNo: string): Promise<void> {
  const inbound = await inboundOfOrder(sql, orderId);
  if (inbound && ['asked', 'unknown', 'booked'].includes(inbound.bookState))
    throw new Forbidden(
      `${parcelNo} is a box of IN-${inbound.no}, and ${inbound.center} was told what lies in it.`,
      'Call its booking off first, under Inbound.',
    );
}
