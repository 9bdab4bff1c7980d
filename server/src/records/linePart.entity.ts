import { Check, Entity, Index } from 'typeorm';
import { Flag, Int, Ref, Uuid } from '../database/columns.js';

@Entity('linePart')
@Index(['kitId'])
@Index(['lineId'])
@Index(['orderId'])
@Index(['productId'])
@Index(['shipmentId'])
@Check(`leftOut >= 0`)
@Check(`made >= 0`)
@Check(`quantity >= 0`)
export class LinePart {
  @Uuid({ primary: true })
  id!: string;

  @Ref('OrderLine')
  lineId!: string;

  @Uuid()
  orderId!: string;

  @Ref('Shipment')
  shipmentId!: string;

  @Ref('Product')
  productId!: string;

  @Int()
  quantity!: number;

  @Ref('Product', { nullable: true })
  kitId!: string | null;

  @Int({ default: 0 })
  made!: number;

  /** It may be left out, and never makes its order Short. */
  @Flag({ default: false })
  optional!: boolean;

  /** Units that the bench left out. */
  @Int({ default: 0 })
  leftOut!: number;
}
