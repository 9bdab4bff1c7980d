import type { Trolley } from '@auk/contract';
import type { CarryLimits, ToteLimits } from '@auk/core';

const MM3_IN_LITRE = 1_000_000;
const MG_IN_KG = 1_000_000;

/** What a tote of a trolley holds, in cubic millimetres and milligrams. */
export const toteLimits = (t: Trolley): ToteLimits => ({
  volume: t.toteLitres * MM3_IN_LITRE,
  weight: t.toteKg * MG_IN_KG,
});

/** What a walk with a trolley carries: an order has a tote or more of its own. */
export const carryLimits = (t: Trolley): CarryLimits => ({
  orders: t.totes,
  totes: t.totes,
  volume: t.totes * t.toteLitres * MM3_IN_LITRE,
  weight: t.trolleyKg * MG_IN_KG,
});
