import { DOORS, type Door, HANDINGS, type Handing, INBOUND_STAGES, type InboundStage } from '@auk/core';
import { Check, Entity, Index } from 'typeorm';
import { At, Code, Day, Int, Json, OneOf, Text, Uuid } from '../database/columns.js';

/** Goods that go together to a network of fulfillment centers. */
@Entity('inboundShipment')
@Index(['no'], { unique: true })
@Index(['stage'])
@Check('weeks > 0')
export class InboundShipment {
  @Uuid({ primary: true })
  id!: string;

  @Int({ generated: 'increment' })
  no!: number;

  /** Its call name, of two words. */
  @Text(40, { default: '' })
  name!: string;

  @Code(40)
  network!: string;

  @OneOf(['house', 'supplier', 'abroad'])
  source!: 'house' | 'supplier' | 'abroad';

  @OneOf(HANDINGS, { default: 'fetched' })
  handing!: Handing;

  /** What a driver finds who fetches it. */
  @OneOf(DOORS, { default: 'dock' })
  door!: Door;

  @OneOf(['near', 'deep'])
  storage!: 'near' | 'deep';

  /** Of its least advanced part. */
  @OneOf(INBOUND_STAGES, { default: 'Draft' })
  stage!: InboundStage;

  @Day({ nullable: true })
  shipDay!: string | null;

  /** Weeks of sales that are to lie there. */
  @Int({ default: 6 })
  weeks!: number;

  /** The way that was chosen, with what it was told to cost. */
  @Json({ nullable: true })
  way!: unknown;

  @At({ nullable: true })
  placedAt!: Date | null;

  /** Under which the network keeps its plan. */
  @Code(40, { nullable: true })
  planCode!: string | null;

  /** The plan as the network has changed it since; null while it is as it was made ready. */
  @Json({ nullable: true })
  planNow!: unknown;

  @At()
  createdAt!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;

  @At({ nullable: true })
  doneAt!: Date | null;
}
