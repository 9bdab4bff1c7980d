import { Check, Entity } from 'typeorm';
import { Big, Day, Json, Ref } from '../database/columns.js';

/** Boxes that somebody planned for an order, with what lies in each, and the most that a packed one may weigh. */
@Entity('packPlan')
@Check('mostMg > 0')
export class PackPlan {
  @Ref('Order', { primary: true })
  orderId!: string;

  @Big()
  mostMg!: number;

  /** The day until which lots must last. */
  @Day({ nullable: true })
  lasts!: string | null;

  /** A box after the other: its code, and units by SKU. */
  @Json()
  boxes!: unknown;
}
