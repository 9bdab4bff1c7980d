import { Entity, Index } from 'typeorm';
import { At, Big, Flag, Int, Ref, Uuid } from '../database/columns.js';

/** A size or weight of a product as it was found at a bench; it counts for the product when somebody has looked at it. */
@Entity('measured')
@Index(['productId'])
@Index(['decidedAt'])
@Index(['orderId'])
export class Measured {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Product')
  productId!: string;

  @Ref('Order', { nullable: true })
  orderId!: string | null;

  @Int({ nullable: true })
  length!: number | null;

  @Int({ nullable: true })
  width!: number | null;

  @Int({ nullable: true })
  height!: number | null;

  @Big({ nullable: true })
  weightMg!: number | null;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  @At({ nullable: true })
  decidedAt!: Date | null;

  @Flag({ nullable: true })
  taken!: boolean | null;
}
