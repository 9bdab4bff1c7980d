import { Entity, Index } from 'typeorm';
import { At, Ref, Uuid } from '../database/columns.js';

@Entity('returnReceipt')
@Index(['shipmentId'])
export class ReturnReceipt {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Shipment')
  shipmentId!: string;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;
}
