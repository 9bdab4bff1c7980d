import { Entity, Index } from 'typeorm';
import { At, Ref, Text, Uuid } from '../database/columns.js';

@Entity('stopReason')
@Index(['liftedAt', 'code', 'subject'])
@Index(['orderId', 'liftedAt'])
export class StopReason {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Order')
  orderId!: string;

  @Text(30)
  code!: string;

  @Text(100)
  subject!: string;

  @Text(400)
  says!: string;

  @Text(200)
  cure!: string;

  @At()
  raisedAt!: Date;

  @At({ nullable: true })
  liftedAt!: Date | null;
}
