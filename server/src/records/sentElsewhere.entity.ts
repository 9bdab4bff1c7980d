import { Check, Entity, Index } from 'typeorm';
import { At, Code, Ref, Text } from '../database/columns.js';

/** An order that somebody else sends to the buyer: a supplier, or a fulfillment center. */
@Entity('sentElsewhere')
@Index(['supplierId'])
@Index(['purchaseOrderId'])
@Index(['center', 'leftAt'])
@Check('(supplierId IS NULL) <> (center IS NULL)')
export class SentElsewhere {
  @Ref('Order', { primary: true })
  orderId!: string;

  @Ref('Supplier', { nullable: true })
  supplierId!: string | null;

  @Code(40, { nullable: true })
  center!: string | null;

  @Ref('PurchaseOrder', { nullable: true })
  purchaseOrderId!: string | null;

  @At()
  at!: Date;

  /** When it was ordered there. */
  @At({ nullable: true })
  placedAt!: Date | null;

  @At({ nullable: true })
  leftAt!: Date | null;

  /** Why it could not be ordered there yet. */
  @Text(300, { nullable: true })
  why!: string | null;
}
