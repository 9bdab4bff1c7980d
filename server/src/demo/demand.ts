import { explode } from '@auk/core';
import { CATALOGUE, type DemoOrder } from '@auk/demo';

/** Orders to suppliers that are open: what is scarce comes today, the rest later. */
export const PURCHASES = (day: (days: number) => string) => [
  {
    supplier: 'Licking Valley Glass',
    reference: 'LV-2214',
    expected: day(0),
    lines: [
      { sku: 'VEIL-SQF', quantity: 24 },
      { sku: 'QPN-BLU', quantity: 40 },
      { sku: 'JAR-HEX-12', quantity: 11 },
    ],
  },
  {
    supplier: 'Coshocton Cutlery',
    reference: 'C-881',
    expected: day(-1),
    lines: [{ sku: 'KNF-EL-10', quantity: 12 }],
  },
  {
    supplier: 'Tinker Run Remedies',
    reference: '',
    expected: day(4),
    lines: [
      { sku: 'MIT-STR-10', quantity: 60 },
      { sku: 'MIT-OXA-35', quantity: 30 },
    ],
  },
];

/** Products of which too little is received. */
export const SCARCE = new Set(['KNF-EL-10', 'QPN-BLU', 'VEIL-SQF', 'KIT-GARDEN']);

/** Demand by SKU of what is gathered from stock. */
export function demandOf(orders: readonly DemoOrder[]): Map<string, number> {
  const by = new Map(
    CATALOGUE.map(p => [
      p.sku,
      {
        kind: p.kind,
        recipeId: null,
        parts: p.parts.map(([productId, quantity]) => ({ productId, quantity })),
      },
    ]),
  );
  const demand = new Map<string, number>();
  for (const { order } of orders)
    for (const line of order.lines) {
      const sku = line.channelSku.replace(/^(FM|P9|LS)-/, '');
      const parts = by.has(sku) ? explode(sku, line.quantity, id => by.get(id)) : null;
      if (parts?.ok)
        for (const p of parts.value) demand.set(p.productId, (demand.get(p.productId) ?? 0) + p.quantity);
    }
  return demand;
}
