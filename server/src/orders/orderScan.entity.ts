import { Entity, Index } from 'typeorm';
import { At, Json, Ref, Text, Uuid } from '../database/columns.js';

@Entity('orderScan')
@Index(['orderId'])
export class OrderScan {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Order')
  orderId!: string;

  @Text(300)
  text!: string;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  @Json()
  answer!: unknown;
}
