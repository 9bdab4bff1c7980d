import { Entity, Index } from 'typeorm';
import { At, Flag, OneOf, Ref, Text, Uuid } from '../database/columns.js';

@Entity('orderNote')
@Index(['orderId'])
export class OrderNote {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Order')
  orderId!: string;

  @OneOf(['packer', 'slip', 'staff'])
  kind!: 'packer' | 'slip' | 'staff';

  @Text(500)
  text!: string;

  @Flag({ default: false })
  confirm!: boolean;

  /** The word that confirms it, where a scan or a key is not enough. */
  @Text(40, { nullable: true })
  word!: string | null;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  @At({ nullable: true })
  removedAt!: Date | null;
}
