import { Entity } from 'typeorm';
import { At, Ref, Text, Uuid } from '../database/columns.js';

@Entity('stopAccepted')
export class StopAccepted {
  @Ref('Order', { primary: true })
  orderId!: string;

  @Text(30, { primary: true })
  code!: string;

  @Text(100, { primary: true })
  subject!: string;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;
}
