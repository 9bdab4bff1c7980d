import { Entity, Index } from 'typeorm';
import { At, Fixed, Json, Ref, Text, Uuid } from '../database/columns.js';

@Entity('importFile')
@Index(['channelId'])
export class ImportFile {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Channel', { nullable: true })
  channelId!: string | null;

  @Text(200)
  name!: string;

  @Fixed(64)
  digest!: string;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  @Json()
  counts!: unknown;

  @Text(12, { default: 'orders' })
  kind!: string;
}
