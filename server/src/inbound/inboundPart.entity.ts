import { INBOUND_STAGES, type InboundStage } from '@auk/core';
import { Entity, Index } from 'typeorm';
import { At, Big, Code, Day, Fixed, Int, Json, OneOf, Ref, Text, Uuid } from '../database/columns.js';

/** What of a shipment goes to one center: an order of the house's own from reserve on, with a stage and a booking of its own. */
@Entity('inboundPart')
@Index(['shipmentId', 'seq'], { unique: true })
@Index(['orderId'], { unique: true })
@Index(['placeId'])
@Index(['bookState'])
@Index(['stage'])
export class InboundPart {
  @Uuid({ primary: true })
  id!: string;

  @Ref('InboundShipment')
  shipmentId!: string;

  @Int()
  seq!: number;

  @Code(40)
  center!: string;

  @Json()
  address!: unknown;

  @OneOf(INBOUND_STAGES, { default: 'Draft' })
  stage!: InboundStage;

  @Ref('Order', { nullable: true })
  orderId!: string | null;

  /** Where its goods lie while they are on their way. */
  @Ref('Place', { nullable: true })
  placeId!: string | null;

  /** The boxes that were planned. */
  @Json()
  boxes!: unknown;

  @OneOf(['none', 'asked', 'booked', 'refused', 'unknown', 'cancelled'], { default: 'none' })
  bookState!: 'none' | 'asked' | 'booked' | 'refused' | 'unknown' | 'cancelled';

  /** The key under which it is booked: asked twice it is one booking. */
  @Uuid({ nullable: true })
  bookKey!: string | null;

  /** What is asked for, as it was when the price was confirmed. */
  @Json({ nullable: true })
  asked!: unknown;

  @Big({ nullable: true })
  askedMinor!: number | null;

  @Fixed(3, { nullable: true })
  currency!: string | null;

  @Big({ nullable: true })
  bookedMinor!: number | null;

  @Code(40, { nullable: true })
  bookNo!: string | null;

  @At({ nullable: true })
  freeUntil!: Date | null;

  @Json({ nullable: true })
  tracking!: unknown;

  /** Why it is not booked, or could not be asked. */
  @Text(300, { nullable: true })
  why!: string | null;

  @At({ nullable: true })
  leftAt!: Date | null;

  /** The day on which it is expected now, where it is late. */
  @Day({ nullable: true })
  late!: string | null;

  @At({ nullable: true })
  countedAt!: Date | null;
}
