import type { Box } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { fromJson, type Sql, type Tx } from '../database/db.js';
import { PackPlan } from './packPlan.entity.js';

/** A box as it is planned: its code, and units by SKU. */
export interface PlannedBox {
  code: string;
  holds: Record<string, number>;
}

/** Boxes that were planned for an order, and the most that a packed one may weigh (milligrams). */
export interface PlannedBoxes {
  mostMg: number;
  /** The day until which lots must last; null where nobody says. */
  lasts: string | null;
  boxes: PlannedBox[];
}

/** What lies in which box of an order, where somebody planned it before it is packed. */
@Injectable()
export class PackPlans {
  async set(tx: Tx, orderId: string, { mostMg, lasts, boxes }: PlannedBoxes): Promise<void> {
    await tx.upsert(
      PackPlan,
      [{ orderId, mostMg, lasts, boxes: JSON.stringify(boxes) }],
      ['mostMg', 'lasts', 'boxes'],
    );
  }

  async of(sql: Sql, orderId: string): Promise<PlannedBoxes | null> {
    const plan = await sql.of(PackPlan).findOneBy({ orderId });
    return plan && { mostMg: plan.mostMg, lasts: plan.lasts, boxes: fromJson<PlannedBox[]>(plan.boxes) };
  }
}

/** Boxes that hold no more than a packed one may weigh. */
export const within = (boxes: readonly Box[], mostMg: number): Box[] =>
  boxes.map(b => ({ ...b, limitMg: Math.min(b.limitMg, mostMg - b.tareMg) }));
