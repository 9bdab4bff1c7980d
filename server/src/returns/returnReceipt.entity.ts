import { Entity, Index } from 'typeorm';
import { At, Ref, Uuid } from '../database/columns.js';

@Entity('returnReceipt')
@Index(['parcelId'], { unique: true })
@Index(['shipmentId'])
export class ReturnReceipt {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Shipment')
  shipmentId!: string;

  @At()
  at!: Date;

  /** The parcel that came back; it comes back once. */
  @Ref('Parcel', { nullable: true })
  parcelId!: string | null;

  @Uuid({ nullable: true })
  personId!: string | null;
}
