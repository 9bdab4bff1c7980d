import { Check, Entity, Index } from 'typeorm';
import { At, Big, Int, Ref, Text, Uuid } from '../database/columns.js';

@Entity('stockMove')
@Index(['why', 'at'])
@Index(['lotId'])
@Index(['causeId'])
@Index(['fromPlaceId'])
@Index(['productId', 'id'])
@Index(['toPlaceId'])
@Check(`fromPlaceId <> toPlaceId`)
@Check(`quantity > 0`)
export class StockMove {
  @Big({ primary: true, generated: 'increment' })
  id!: number;

  @At()
  at!: Date;

  @Ref('Product')
  productId!: string;

  @Uuid({ nullable: true })
  lotId!: string | null;

  @Ref('Place')
  fromPlaceId!: string;

  @Ref('Place')
  toPlaceId!: string;

  @Int()
  quantity!: number;

  @Text(24)
  why!: string;

  @Uuid({ nullable: true })
  causeId!: string | null;

  @Uuid({ nullable: true })
  personId!: string | null;

  @Text(120, { default: '' })
  reason!: string;
}
