import { Check, Entity, Index } from 'typeorm';
import { At, Flag, Int, Ref, Uuid } from '../database/columns.js';

@Entity('stockBalance')
@Index(['countedAt'])
@Index(['lotKey'])
@Index(['placeId'])
@Check(`bounded = 0 or onHand >= listed and listed >= 0`)
export class StockBalance {
  @Ref('Product', { primary: true })
  productId!: string;

  @Ref('Place', { primary: true })
  placeId!: string;

  @Uuid({ primary: true })
  lotKey!: string;

  @Flag()
  bounded!: boolean;

  @Int()
  onHand!: number;

  @Int({ default: 0 })
  listed!: number;

  @At({ nullable: true })
  countedAt!: Date | null;
}
