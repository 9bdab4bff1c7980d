import { Entity, Index } from 'typeorm';
import { At, OneOf, Ref, Text, Uuid } from '../database/columns.js';

@Entity('orderMessage')
@Index(['orderId'])
@Index(['sender', 'readAt'])
export class OrderMessage {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Order')
  orderId!: string;

  @OneOf(['buyer', 'staff'])
  sender!: 'buyer' | 'staff';

  @Text(2000)
  text!: string;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  /** When somebody of the house has seen to it. */
  @At({ nullable: true })
  readAt!: Date | null;
}
