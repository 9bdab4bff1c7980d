import { Check, Entity, Index } from 'typeorm';
import { Big, Int, Ref, Uuid } from '../database/columns.js';

@Entity('purchaseLine')
@Index(['orderId', 'productId'], { unique: true })
@Index(['productId'])
@Check(`priceMinor >= 0`)
@Check(`quantity > 0`)
@Check(`received >= 0 and received <= quantity`)
export class PurchaseLine {
  @Uuid({ primary: true })
  id!: string;

  @Ref('PurchaseOrder')
  orderId!: string;

  @Int()
  position!: number;

  @Ref('Product')
  productId!: string;

  @Int()
  quantity!: number;

  @Int({ default: 0 })
  received!: number;

  /** What the supplier asks for one, in minor units of the house's currency; null where nobody told. */
  @Big({ nullable: true })
  priceMinor!: number | null;
}
