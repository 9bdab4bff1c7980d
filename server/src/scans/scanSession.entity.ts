import { Entity, Index } from 'typeorm';
import { At, Int, Json, OneOf, Ref, Text, Uuid } from '../database/columns.js';

export const SESSION_KINDS = [
  'pick',
  'pack',
  'receive',
  'handover',
  'draft',
  'count',
  'build',
  'sort',
  'stage',
  'prepare',
] as const;
export type SessionKind = (typeof SESSION_KINDS)[number];

/** One list, packed order, purchase order, departure or draft has one session of scans; places are counted and builds worked on again and again. */
@Entity('scanSession')
@Index(['listId'], { unique: true })
@Index(['purchaseOrderId'], { unique: true })
@Index(['departureId'], { unique: true })
@Index(['orderId', 'kind'], { unique: true })
@Index(['placeId'])
@Index(['buildId'])
@Index(['inboundShipmentId'])
@Index(['closedAt'])
export class ScanSession {
  @Uuid({ primary: true })
  id!: string;

  @OneOf(SESSION_KINDS)
  kind!: SessionKind;

  @Ref('PickList', { nullable: true })
  listId!: string | null;

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

  @Ref('Departure', { nullable: true })
  departureId!: string | null;

  @Ref('Order', { nullable: true })
  orderId!: string | null;

  @Ref('Place', { nullable: true })
  placeId!: string | null;

  @Ref('Build', { nullable: true })
  buildId!: string | null;

  @Ref('InboundShipment', { nullable: true })
  inboundShipmentId!: string | null;

  /** Version of the reducers that its state is of. */
  @Int({ default: 1 })
  reducers!: number;
}
