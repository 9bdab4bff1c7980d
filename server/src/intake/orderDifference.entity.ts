import { Entity, Index } from 'typeorm';
import { At, Code, Flag, Json, Ref, Text, Uuid } from '../database/columns.js';

@Entity('orderDifference')
@Index(['orderId', 'decidedAt'])
export class OrderDifference {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Order')
  orderId!: string;

  @Code(80, { nullable: true })
  lineKey!: string | null;

  @Text(40)
  field!: string;

  @Json({ nullable: true })
  ours!: unknown | null;

  @Json({ nullable: true })
  theirs!: unknown | null;

  @Json({ nullable: true })
  theirLine!: unknown | null;

  @At()
  raisedAt!: Date;

  @At({ nullable: true })
  decidedAt!: Date | null;

  @Uuid({ nullable: true })
  personId!: string | null;

  @Flag({ nullable: true })
  taken!: boolean | null;
}
