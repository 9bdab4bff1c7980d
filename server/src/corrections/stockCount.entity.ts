import { Check, Entity, Index } from 'typeorm';
import { At, Int, Ref, Text, Uuid } from '../database/columns.js';

@Entity('stockCount')
@Index(['countId'])
@Index(['placeId'])
@Index(['productId', 'placeId', 'at'])
@Check(`counted >= 0`)
export class StockCount {
  @Uuid({ primary: true })
  id!: string;

  @Uuid()
  countId!: string;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  @Ref('Place')
  placeId!: string;

  @Ref('Product')
  productId!: string;

  @Uuid()
  lotKey!: string;

  @Int()
  expected!: number;

  @Int()
  counted!: number;

  @Text(120, { default: '' })
  reason!: string;
}
