import { Entity, Index } from 'typeorm';
import { At, Code, Flag, Int, OneOf, Ref, Text, Uuid } from '../database/columns.js';

/** Where what was counted is not what was sent; missing units wait until they are claimed or written off. */
@Entity('inboundDifference')
@Index(['partId', 'sscc', 'code'], { unique: true })
@Index(['productId'])
@Index(['state'])
export class InboundDifference {
  @Uuid({ primary: true })
  id!: string;

  @Ref('InboundPart')
  partId!: string;

  @Code(18)
  sscc!: string;

  @Code(60)
  code!: string;

  @Ref('Product', { nullable: true })
  productId!: string | null;

  @Int()
  missing!: number;

  @Int()
  surplus!: number;

  @Flag()
  stranger!: boolean;

  @OneOf(['open', 'claimed', 'written off', 'booked'], { default: 'open' })
  state!: 'open' | 'claimed' | 'written off' | 'booked';

  @Text(120, { default: '' })
  reason!: string;

  @At({ nullable: true })
  decidedAt!: Date | null;

  @Uuid({ nullable: true })
  personId!: string | null;
}
