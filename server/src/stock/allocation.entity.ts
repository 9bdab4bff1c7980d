import { Check, Entity, Index } from 'typeorm';
import { Int, OneOf, Ref, Uuid } from '../database/columns.js';

@Entity('allocation')
@Index(['orderId'])
@Index(['parcelKey'])
@Check(`quantity >= 0`)
export class Allocation {
  @Ref('LinePart', { primary: true })
  partId!: string;

  @OneOf(['soft', 'listed', 'picked', 'packed', 'departed', 'sorted'], { primary: true })
  hold!: 'soft' | 'listed' | 'picked' | 'packed' | 'departed' | 'sorted';

  @Uuid({ primary: true })
  stopKey!: string;

  @Uuid({ primary: true })
  parcelKey!: string;

  @Ref('Order')
  orderId!: string;

  @Uuid()
  productId!: string;

  @Int()
  quantity!: number;
}
