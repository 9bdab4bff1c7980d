import type { Address, Hold, Stage, StopReason } from '@auk/core';
import { z } from 'zod';
import { PageQuery } from './common.js';

export const OrderQuery = PageQuery.extend({
  stage: z.string().max(200).optional(),
  channel: z.string().max(20).optional(),
  departure: z.uuid().optional(),
  reason: z.string().max(40).optional(),
  words: z.string().trim().max(80).optional(),
});
export type OrderQuery = z.infer<typeof OrderQuery>;

export interface OrderRow {
  id: string;
  no: string;
  channelNumber: string;
  channel: string;
  buyer: string;
  town: string;
  what: string;
  lines: number;
  units: number;
  stage: Stage;
  reason: string | null;
  leavesWith: { carrier: string; cutOff: string } | null;
  promised: string | null;
  paidMinor: number;
  currency: string;
  starred: boolean;
}

export interface OrderPart {
  id: string;
  productId: string;
  sku: string;
  name: string;
  quantity: number;
  held: Record<Hold, number>;
}

export interface OrderLineView {
  id: string;
  channelSku: string;
  title: string;
  quantity: number;
  priceMinor: number;
  product: { id: string; sku: string; name: string; kind: string } | null;
  parts: OrderPart[];
}

export interface HistoryRow {
  at: string;
  person: string | null;
  says: string;
}

export interface OrderView {
  row: OrderRow;
  mail: string;
  placedAt: string | null;
  payment: string;
  shipTo: Address;
  note: string;
  shippingMinor: number;
  lines: OrderLineView[];
  stops: StopReason[];
  parcels: {
    no: string;
    state: string;
    carrier: string | null;
    service: string | null;
    tracking: string | null;
    minor: number | null;
    departure: string | null;
    departureNo: string | null;
  }[];
  lists: string[];
  history: HistoryRow[];
  version: number;
}

export const Park = z.object({ reason: z.string().trim().min(1).max(200) });
export const Cancel = z.object({ reason: z.string().trim().min(1).max(200) });
