import { Check, Entity, Index } from 'typeorm';
import { At, Big, Code, Int, Ref, Text, Uuid } from '../database/columns.js';

@Entity('listing')
@Index(['channelId', 'channelSku'], { unique: true })
@Index(['productId'])
@Check(`units > 0`)
export class Listing {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Channel')
  channelId!: string;

  @Code(60)
  channelSku!: string;

  @Text(200)
  title!: string;

  @Big({ nullable: true })
  priceMinor!: number | null;

  @Ref('Product', { nullable: true })
  productId!: string | null;

  @Code(14, { default: '' })
  gtin!: string;

  @Int({ default: 1 })
  units!: number;

  @Int({ nullable: true })
  pushed!: number | null;

  @At({ nullable: true })
  seenAt!: Date | null;
}
