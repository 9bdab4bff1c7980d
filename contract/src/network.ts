import { z } from 'zod';

/** How a network of fulfillment centers speaks: its stock, and orders that it sends to buyers, by keys of whoever orders. */
export const NetworkStock = z.object({
  rows: z.array(z.object({ code: z.string().max(60), units: z.number().int().min(0) })).max(100_000),
});
export type NetworkStock = z.infer<typeof NetworkStock>;

export const NetworkOrderIn = z.object({
  number: z.string().max(48),
  lines: z.array(z.object({ code: z.string().max(60), quantity: z.number().int().min(1) })).min(1),
  shipTo: z.record(z.string(), z.string().nullable()),
});
export type NetworkOrderIn = z.infer<typeof NetworkOrderIn>;

export const NetworkOrder = z.object({
  state: z.enum(['taken', 'left', 'cancelled']),
  carrier: z.string().max(60).nullable(),
  tracking: z.string().max(40).nullable(),
});
export type NetworkOrder = z.infer<typeof NetworkOrder>;

/** Why something was not done there. */
export const NetworkRefusal = z.object({ why: z.string().max(300) });

/** A network whose centers send orders for the house. */
export const CenterIn = z.object({
  name: z.string().trim().min(2, 'is wanted').max(40),
  address: z.url({ protocol: /^https?$/ }).max(200),
  /** An empty key leaves the one that is there. */
  key: z.string().trim().max(200).default(''),
});
export type CenterIn = z.infer<typeof CenterIn>;
export const CenterView = CenterIn.omit({ key: true });
export type CenterView = z.infer<typeof CenterView>;
