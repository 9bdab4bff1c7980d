import { Entity, Index } from 'typeorm';
import { At, Big, Code, Ref, Text, Uuid } from '../database/columns.js';

/** What was done with a shipment, and what its network tells; `code` is the network's own for what it told, so that it counts once. */
@Entity('inboundEvent')
@Index(['partId', 'code'], { unique: true })
@Index(['shipmentId'])
export class InboundEvent {
  @Big({ primary: true, generated: 'increment' })
  id!: number;

  @Ref('InboundShipment')
  shipmentId!: string;

  @Ref('InboundPart', { nullable: true })
  partId!: string | null;

  @Code(80, { nullable: true })
  code!: string | null;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  @Text(300)
  says!: string;

  @Code(18, { nullable: true })
  sscc!: string | null;
}
