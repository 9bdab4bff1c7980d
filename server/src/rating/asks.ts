import type { ServiceOptions } from '@auk/contract';
import { convert, type Payment } from '@auk/core';
import { Forbidden } from '../http/problem.js';
import type { PriceGround } from './prices.service.js';

/** What of an order decides what is asked of a service, whoever chooses it; money in minor units of its currency. */
export interface AskingOrder {
  channelNumber: string;
  pickUpPoint: string;
  payment: Payment;
  totalMinor: number;
  paidMinor: number;
  currency: string;
  /** Which parcel of the order it is, from 1: what is paid at the door is paid once. */
  seq: number;
}

/** What an order itself asks: to be brought to its pick-up point, and to be paid at the door; in house money. */
export function asksOf(
  order: AskingOrder,
  { rates, house }: Pick<PriceGround, 'rates' | 'house'>,
): ServiceOptions {
  const due = order.payment === 'on delivery' && order.seq === 1 ? order.totalMinor - order.paidMinor : 0;
  const cashMinor = due > 0 ? convert(due, order.currency, house, rates, house) : 0;
  if (cashMinor === null)
    throw new Forbidden(
      `${order.channelNumber} is paid at the door in ${order.currency}, and no rate of it is stored.`,
      'Enter one under Setup > Carriers.',
    );
  return { ...(order.pickUpPoint !== '' && { toPoint: true }), ...(cashMinor > 0 && { cashMinor }) };
}
