import { z } from 'zod';

export const PlanList = z.object({ orderIds: z.array(z.uuid()).min(1).max(200) });

export interface ListRow {
  id: string;
  no: string;
  state: 'released' | 'picking' | 'done';
  orders: number;
  stops: number;
  units: number;
  taken: number;
  missing: number;
  metres: number;
  picker: string | null;
  createdAt: string;
}

export interface ListStop {
  seq: number;
  place: string;
  aisle: number;
  along: number;
  sku: string;
  name: string;
  quantity: number;
  taken: number;
  tote: string | null;
  order: string;
}

export interface ListView extends ListRow {
  rows: ListStop[];
}
