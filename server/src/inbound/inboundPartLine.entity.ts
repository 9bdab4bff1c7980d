import { Check, Entity, Index } from 'typeorm';
import { Int, Ref } from '../database/columns.js';

/** Units of a product that go to one center. */
@Entity('inboundPartLine')
@Index(['productId'])
@Check('units > 0')
export class InboundPartLine {
  @Ref('InboundPart', { primary: true })
  partId!: string;

  @Ref('Product', { primary: true })
  productId!: string;

  @Int()
  units!: number;
}
