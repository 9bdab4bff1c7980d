import { Entity, Index } from 'typeorm';
import { At, Big, Code, Fixed, OneOf, Ref, Text, Uuid } from '../database/columns.js';

/** Money that a carrier owes back: for a purchase that it first denied, or for more than was agreed. */
@Entity('refundClaim')
@Index(['labelId', 'kind'], { unique: true })
@Index(['state'])
export class RefundClaim {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Label')
  labelId!: string;

  @OneOf(['stray', 'price'])
  kind!: 'stray' | 'price';

  @Big()
  minor!: number;

  @Fixed(3)
  currency!: string;

  @OneOf(['open', 'settled', 'given up'], { default: 'open' })
  state!: 'open' | 'settled' | 'given up';

  @Text(300)
  why!: string;

  @Code(40, { nullable: true })
  tracking!: string | null;

  @At()
  at!: Date;

  @At({ nullable: true })
  closedAt!: Date | null;

  @Uuid({ nullable: true })
  personId!: string | null;
}
