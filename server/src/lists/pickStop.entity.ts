import { Check, Entity, Index } from 'typeorm';
import { Int, Ref, Uuid } from '../database/columns.js';

@Entity('pickStop')
@Index(['listId', 'seq'], { unique: true })
@Index(['lotId'])
@Index(['orderId'])
@Index(['partId'])
@Index(['placeId'])
@Index(['toteId'])
@Check(`quantity > 0`)
export class PickStop {
  @Uuid({ primary: true })
  id!: string;

  @Ref('PickList')
  listId!: string;

  @Int()
  seq!: number;

  @Ref('Place')
  placeId!: string;

  @Ref('Lot', { nullable: true })
  lotId!: string | null;

  @Uuid()
  productId!: string;

  @Ref('LinePart')
  partId!: string;

  @Uuid()
  orderId!: string;

  @Int()
  quantity!: number;

  @Ref('Place', { nullable: true })
  toteId!: string | null;
}
