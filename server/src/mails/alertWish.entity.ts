import { ALERTS, type Alert } from '@auk/contract';
import { Entity, Index } from 'typeorm';
import { OneOf, Ref, Text, Uuid } from '../database/columns.js';

@Entity('alertWish')
@Index(['channelId'])
export class AlertWish {
  @Uuid({ primary: true })
  id!: string;

  @OneOf(ALERTS)
  kind!: Alert;

  @Ref('Channel', { nullable: true })
  channelId!: string | null;

  @Text(254)
  mail!: string;
}
