import { Entity, Index } from 'typeorm';
import { Int, Json, Ref, Uuid } from '../database/columns.js';

/** An order of a plan, on one of its lists. `spots` are the places that were expected when it was planned; release decides them. */
@Entity('plannedOrder')
@Index(['planId', 'orderId'], { unique: true })
@Index(['plannedListId'])
@Index(['orderId'])
export class PlannedOrder {
  @Uuid({ primary: true })
  id!: string;

  @Ref('PickPlan')
  planId!: string;

  @Ref('PlannedList')
  plannedListId!: string;

  @Ref('Order')
  orderId!: string;

  @Json()
  spots!: unknown;

  @Int()
  units!: number;

  @Int()
  totes!: number;

  /** Seconds after planning until which it must be picked. */
  @Int({ nullable: true })
  due!: number | null;
}
