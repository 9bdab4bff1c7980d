import { Entity, Index } from 'typeorm';
import { Decimal, Json, Ref } from '../database/columns.js';

@Entity('suspicion')
@Index(['otherId'])
export class Suspicion {
  @Ref('Order', { primary: true })
  orderId!: string;

  @Ref('Order', { primary: true })
  otherId!: string;

  @Decimal(3, 2)
  score!: number;

  @Json()
  why!: unknown;
}
