import { Entity, Index } from 'typeorm';
import { At, Bytes, Ref, Uuid } from '../database/columns.js';

/** A picture of an open box, kept with its order. Its key is made by the device that took it, so that it is kept once. */
@Entity('orderPhoto')
@Index(['orderId'])
@Index(['at'])
export class OrderPhoto {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Order')
  orderId!: string;

  @At()
  takenAt!: Date;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  @Bytes()
  bytes!: Buffer;
}
