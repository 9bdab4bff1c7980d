import { Check, Entity, Index } from 'typeorm';
import { At, Big, Code, Int, Ref, Text, Uuid } from '../database/columns.js';

@Entity('parcel')
@Index(['boxCode'])
@Index(['departedAt'])
@Index(['departureId'])
@Index(['no'], { unique: true })
@Index(['orderId'])
@Index(['orderId', 'seq'], { unique: true })
@Index(['placeId'])
@Index(['shipmentId'])
@Check(`weightMg > 0`)
export class Parcel {
  @Uuid({ primary: true })
  id!: string;

  @Int({ generated: 'increment' })
  no!: number;

  @Ref('Order')
  orderId!: string;

  /** Which parcel of its order it is, from 1. */
  @Int({ default: 1 })
  seq!: number;

  @Ref('Shipment')
  shipmentId!: string;

  @Ref('Place')
  placeId!: string;

  @Code(20, { nullable: true, to: 'Box' })
  boxCode!: string | null;

  @Big({ nullable: true })
  weightMg!: number | null;

  @At()
  openedAt!: Date;

  @At({ nullable: true })
  closedAt!: Date | null;

  /** Since when it is planned for an order that nobody has begun to pack, so that its label can be bought before; until a bench takes it over. */
  @At({ nullable: true })
  aheadAt!: Date | null;

  /** Why its label, bought ahead, is not right for what was packed; it must not leave with it. */
  @Text(200, { nullable: true })
  misfit!: string | null;

  @Ref('Departure', { nullable: true })
  departureId!: string | null;

  @At({ nullable: true })
  handedOverAt!: Date | null;

  @At({ nullable: true })
  departedAt!: Date | null;
}
