import { Check, Entity, Index } from 'typeorm';
import { Code, Int, Ref } from '../database/columns.js';

/** Units that a center counted in a box, by the code that it was told. */
@Entity('inboundCount')
@Index(['productId'])
@Check('units >= 0')
export class InboundCount {
  @Ref('InboundPart', { primary: true })
  partId!: string;

  @Code(18, { primary: true })
  sscc!: string;

  @Code(60, { primary: true })
  code!: string;

  /** Null for goods that the house does not know. */
  @Ref('Product', { nullable: true })
  productId!: string | null;

  @Int()
  units!: number;
}
