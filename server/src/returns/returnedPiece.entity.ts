import { Check, Entity, Index } from 'typeorm';
import { At, Int, OneOf, Ref, Uuid } from '../database/columns.js';

/** Units of one product and lot that came back, of how many that were sent, and what becomes of them. */
@Entity('returnedPiece')
@Index(['receiptId'])
@Index(['lineId'])
@Index(['productId'])
@Index(['lotId'])
@Index(['judged'])
@Check(`quantity >= 0`)
export class ReturnedPiece {
  @Uuid({ primary: true })
  id!: string;

  @Ref('ReturnReceipt')
  receiptId!: string;

  @Ref('OrderLine')
  lineId!: string;

  @Ref('Product')
  productId!: string;

  @Ref('Lot', { nullable: true })
  lotId!: string | null;

  @Int()
  sent!: number;

  @Int()
  quantity!: number;

  @OneOf(['open', 'resell', 'write off'], { default: 'open' })
  judged!: 'open' | 'resell' | 'write off';

  @At({ nullable: true })
  judgedAt!: Date | null;

  @Uuid({ nullable: true })
  personId!: string | null;
}
