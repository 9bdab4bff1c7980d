import type { PickState } from '@auk/core';
import { z } from 'zod';
import { fromCore } from './common.js';

/** Orders for one list; a batch is picked as one heap and sorted later. */
export const PlanList = z.object({
  orderIds: z.array(z.uuid()).min(1).max(200),
  method: z.enum(['cluster', 'batch']).default('cluster'),
});
export type PlanList = z.infer<typeof PlanList>;

export const ListRow = z.object({
  id: z.string(),
  no: z.string(),
  state: z.enum(['released', 'picking', 'done']),
  orders: z.number(),
  stops: z.number(),
  units: z.number(),
  taken: z.number(),
  missing: z.number(),
  metres: z.number(),
  picker: z.string().nullable(),
  /** For whom the lead has set it aside. */
  for: z.string().nullable(),
  /** When the first of its orders leaves. */
  cutOff: z.string().nullable(),
  createdAt: z.string(),
});
export type ListRow = z.infer<typeof ListRow>;

export const ListStop = z.object({
  seq: z.number(),
  place: z.string(),
  aisle: z.number().nullable(),
  along: z.number().nullable(),
  sku: z.string(),
  name: z.string(),
  quantity: z.number(),
  taken: z.number(),
  tote: z.string().nullable(),
  order: z.string(),
});
export type ListStop = z.infer<typeof ListStop>;

export const ListView = ListRow.extend(z.object({ rows: z.array(ListStop) }).shape);
export type ListView = z.infer<typeof ListView>;

/** A pick list opened by a picker: its session and where it stands. */
export const OpenedList = z.object({
  sessionId: z.string(),
  listId: z.string(),
  state: fromCore<PickState>(),
});
export type OpenedList = z.infer<typeof OpenedList>;

/** The next list is taken on a device. */
export const TakeNext = z.object({ device: z.string().min(1).max(60) });
/** A list is set aside for a person, or for anybody again. */
export const HandList = z.object({ personId: z.uuid().nullable() });
/** Who may be handed a list. */
export const Picker = z.object({ id: z.string(), name: z.string() });
export type Picker = z.infer<typeof Picker>;
