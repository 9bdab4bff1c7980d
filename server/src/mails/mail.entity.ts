import { Entity, Index } from 'typeorm';
import { At, Code, OneOf, Ref, Text, Uuid } from '../database/columns.js';

@Entity('mail')
@Index(['moment', 'cause'], { unique: true })
@Index(['orderId'])
@Index(['state'])
export class Mail {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Order', { nullable: true })
  orderId!: string | null;

  @Code(20)
  moment!: string;

  /** What caused it: for each cause of a moment one mail. */
  @Code(80)
  cause!: string;

  @Text(254)
  toWhom!: string;

  @Text(200)
  subject!: string;

  @Text(6000)
  text!: string;

  @OneOf(['waiting', 'sent', 'bounced'], { default: 'waiting' })
  state!: 'waiting' | 'sent' | 'bounced';

  @Text(300, { nullable: true })
  why!: string | null;

  @At()
  at!: Date;

  @At({ nullable: true })
  sentAt!: Date | null;
}
