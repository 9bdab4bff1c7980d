import { Check, Entity, Index } from 'typeorm';
import { Int, Ref, Uuid } from '../database/columns.js';

@Entity('pickStop')
@Index(['listId', 'seq'], { unique: true })
@Index(['lotId'])
@Index(['orderId'])
@Index(['partId'])
@Index(['placeId'])
@Index(['toteId'])
@Index(['cellId'])
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

  /** Where its goods lie when they are picked; of a heap known when its carrier is. */
  @Ref('Place', { nullable: true })
  toteId!: string | null;

  /** Where they lie when they are sorted out of a heap. */
  @Ref('Place', { nullable: true })
  cellId!: string | null;
}
