import { Entity, Index } from 'typeorm';
import { At, Big, Int, Json, Ref, Text, Uuid } from '../database/columns.js';

@Entity('orderEvent')
@Index(['orderId', 'id'])
export class OrderEvent {
  @Big({ primary: true, generated: 'increment' })
  id!: number;

  @Ref('Order')
  orderId!: string;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  /** Who did it where it was no person: "book 15, rule 4". */
  @Text(60, { nullable: true })
  actor!: string | null;

  @Text(24)
  kind!: string;

  @Text(600)
  says!: string;

  @Json({ nullable: true })
  changes!: unknown | null;

  @Int({ nullable: true })
  version!: number | null;
}
