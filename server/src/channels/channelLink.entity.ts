import { Check, Entity, Index } from 'typeorm';
import { At, Flag, Int, Json, Ref, Text } from '../database/columns.js';

@Entity('channelLink')
@Index(['active', 'pullAt'])
@Check(`everyMinutes > 0`)
export class ChannelLink {
  @Ref('Channel', { primary: true })
  channelId!: string;

  @Text(20)
  kind!: string;

  @Text(300)
  address!: string;

  @Text(600)
  keySealed!: string;

  @Int({ default: 10 })
  everyMinutes!: number;

  @Flag({ default: true })
  active!: boolean;

  @Text(300, { nullable: true })
  orderCursor!: string | null;

  @Text(300, { nullable: true })
  listingCursor!: string | null;

  @At()
  pullAt!: Date;

  @Text(120, { nullable: true })
  doing!: string | null;

  @At({ nullable: true })
  triedAt!: Date | null;

  @At({ nullable: true })
  succeededAt!: Date | null;

  @Text(400, { nullable: true })
  error!: string | null;

  @Json({ nullable: true })
  lastCounts!: unknown | null;

  @At()
  pushAt!: Date;

  @At({ nullable: true })
  pushedAt!: Date | null;

  @Text(400, { nullable: true })
  pushError!: string | null;
}
