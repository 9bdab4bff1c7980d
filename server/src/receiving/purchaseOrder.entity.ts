import { Entity, Index } from 'typeorm';
import { At, Code, Day, Int, OneOf, Ref, Text, Uuid } from '../database/columns.js';

@Entity('purchaseOrder')
@Index(['no'], { unique: true })
@Index(['state', 'expected'])
@Index(['supplierId', 'reference'])
@Index(['warehouseId'])
export class PurchaseOrder {
  @Uuid({ primary: true })
  id!: string;

  @Int({ generated: 'increment' })
  no!: number;

  @Ref('Warehouse')
  warehouseId!: string;

  @Ref('Supplier')
  supplierId!: string;

  @Code(60, { default: '' })
  reference!: string;

  @Day({ nullable: true })
  expected!: string | null;

  /** `to buyer`: it is sent to a buyer, and never received here. */
  @OneOf(['open', 'done', 'cancelled', 'to buyer'], { default: 'open' })
  state!: 'open' | 'done' | 'cancelled' | 'to buyer';

  @Text(300, { default: '' })
  note!: string;

  @At()
  createdAt!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  @At({ nullable: true })
  doneAt!: Date | null;
}
