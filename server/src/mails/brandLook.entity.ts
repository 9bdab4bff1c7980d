import { Entity } from 'typeorm';
import { Bytes, Fixed, Ref, Text } from '../database/columns.js';

@Entity('brandLook')
export class BrandLook {
  @Ref('Channel', { primary: true })
  channelId!: string;

  @Fixed(7)
  colour!: string;

  @Bytes({ nullable: true })
  logo!: Buffer | null;

  @Text(40, { nullable: true })
  logoType!: string | null;

  /** The address that mails of this brand come from; empty for the house's. */
  @Text(254, { default: '' })
  sentFrom!: string;
}
