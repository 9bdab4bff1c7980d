import { Entity, Index } from 'typeorm';
import { At, Json, OneOf, Ref, Text, Uuid } from '../database/columns.js';

@Entity('scanSession')
@Index(['listId'], { unique: true })
@Index(['parcelId'], { unique: true })
@Index(['purchaseOrderId'], { unique: true })
export class ScanSession {
  @Uuid({ primary: true })
  id!: string;

  @OneOf(['pick', 'pack', 'receive'])
  kind!: 'pick' | 'pack' | 'receive';

  @Ref('PickList', { nullable: true })
  listId!: string | null;

  @Ref('Parcel', { nullable: true })
  parcelId!: string | null;

  @Json()
  opened!: unknown;

  @Json()
  state!: unknown;

  @At()
  openedAt!: Date;

  @At({ nullable: true })
  closedAt!: Date | null;

  @Uuid({ nullable: true })
  personId!: string | null;

  @Text(60)
  device!: string;

  @At({ nullable: true })
  lastScanAt!: Date | null;

  @Ref('PurchaseOrder', { nullable: true })
  purchaseOrderId!: string | null;
}
