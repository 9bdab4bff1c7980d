import { Check, Entity, Index } from 'typeorm';
import { At, Big, Code, Int, OneOf, Ref, Text, Uuid } from '../database/columns.js';

@Entity('orderLine')
@Index(['orderId', 'lineKey'], { unique: true })
@Index(['title'], { fulltext: true })
@Index(['listingId'])
@Index(['orderId', 'position'], { unique: true })
@Index(['productId'])
@Index(['recipeId'])
@Check(`quantity > 0`)
@Check(`units > 0`)
@Check(`weightMg > 0`)
export class OrderLine {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Order')
  orderId!: string;

  @Int()
  position!: number;

  @Code(60)
  channelSku!: string;

  @Text(200)
  title!: string;

  @Int()
  quantity!: number;

  @Big()
  priceMinor!: number;

  @Ref('Listing', { nullable: true })
  listingId!: string | null;

  @Ref('Product', { nullable: true })
  productId!: string | null;

  @Ref('Recipe', { nullable: true })
  recipeId!: string | null;

  @Int({ nullable: true })
  taxPpm!: number | null;

  @Big({ nullable: true })
  taxMinor!: number | null;

  @Big({ nullable: true })
  weightMg!: number | null;

  /** Whether it may be left out; null: as its products say. */
  @OneOf(['yes', 'no'], { nullable: true })
  leaveOut!: 'yes' | 'no' | null;

  @Int({ default: 1 })
  units!: number;

  @Code(80, { default: '' })
  lineKey!: string;

  @At({ nullable: true })
  removedAt!: Date | null;
}
