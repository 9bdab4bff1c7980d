import type { ReceivedOrder } from '@auk/core';
import type { DemoOrder } from '@auk/demo';

/** Of so many orders the one at a position is paid otherwise. */
const PAID_OTHERWISE: readonly (readonly [every: number, at: number, payment: ReceivedOrder['payment']])[] = [
  [71, 9, 'unpaid'],
  [47, 13, 'on delivery'],
  [67, 14, 'refunded'],
  [61, 17, 'part refunded'],
];

/** Gives some open orders a fault that stops them, as real days do. */
export function spoil(orders: DemoOrder[]): DemoOrder[] {
  return orders.map((o, i) => {
    const first = o.order.lines[0]!;
    if (o.channel === 'fernway' && i % 8 === 5)
      return {
        ...o,
        order: {
          ...o.order,
          lines: [{ ...first, channelSku: 'FM-HVB-DEEP-2', title: 'Deep hive body, pair, unassembled' }],
        },
      };
    const payment = PAID_OTHERWISE.find(([every, at]) => i % every === at)?.[2];
    if (payment) return { ...o, order: { ...o.order, payment } };
    if (i % 53 === 11)
      return { ...o, order: { ...o.order, shipTo: { ...o.order.shipTo, postcode: '4370' } } };
    return o;
  });
}
