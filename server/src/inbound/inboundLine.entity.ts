import { Check, Entity, Index } from 'typeorm';
import { At, Code, Int, OneOf, Ref, Text, Uuid } from '../database/columns.js';

/** A product of a shipment: how many, who prepares it, and the code that the network will scan. */
@Entity('inboundLine')
@Index(['shipmentId', 'productId'], { unique: true })
@Index(['productId'])
@Check('units > 0')
@Check('perCase > 0')
@Check('prepared >= 0 and spoiled >= 0')
export class InboundLine {
  @Uuid({ primary: true })
  id!: string;

  @Ref('InboundShipment')
  shipmentId!: string;

  @Ref('Product')
  productId!: string;

  @Int()
  units!: number;

  /** Units a case where it goes in full cases. */
  @Int({ nullable: true })
  perCase!: number | null;

  @OneOf(['us', 'network'], { default: 'us' })
  preparedBy!: 'us' | 'network';

  /** The code that the network scans; null while it was not asked, or when it knows none. */
  @Code(100, { nullable: true })
  scans!: string | null;

  /** The network's own category. */
  @Text(60, { nullable: true })
  category!: string | null;

  @At({ nullable: true })
  askedAt!: Date | null;

  /** The code that was scanned on the goods themselves. */
  @Code(100, { nullable: true })
  confirmed!: string | null;

  @At({ nullable: true })
  confirmedAt!: Date | null;

  @Int({ default: 0 })
  prepared!: number;

  @Int({ default: 0 })
  spoiled!: number;
}
