import { timingSafeEqual } from 'node:crypto';
import { markOf } from '../reference/sealing.js';

/** The last part of the address of a buyer's page: the order's number, and a mark that only this house can make. */
export const buyerToken = (orderNo: number): string => `${orderNo}-${markOf(`buyer ${orderNo}`)}`;

/** The number of the order whose page a token opens; null when the mark is not ours. */
export function orderNoOf(token: string): number | null {
  const orderNo = Number(/^(\d{1,9})-[\w-]{24}$/.exec(token)?.[1] ?? Number.NaN);
  if (Number.isNaN(orderNo)) return null;
  const [asked, ours] = [Buffer.from(token), Buffer.from(buyerToken(orderNo))];
  return asked.length === ours.length && timingSafeEqual(asked, ours) ? orderNo : null;
}
