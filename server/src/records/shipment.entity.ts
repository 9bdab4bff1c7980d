import { Entity, Index } from 'typeorm';
import { Int, Ref, Uuid } from '../database/columns.js';

@Entity('shipment')
@Index(['departureId'])
@Index(['orderId', 'seq'], { unique: true })
export class Shipment {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Order')
  orderId!: string;

  @Int()
  seq!: number;

  @Ref('Departure', { nullable: true })
  departureId!: string | null;
}
