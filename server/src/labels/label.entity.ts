import type { LabelState } from '@auk/core';
import { Check, Entity, Index } from 'typeorm';
import {
  At,
  Big,
  Bytes,
  Code,
  Day,
  Fixed,
  Flag,
  Int,
  Json,
  OneOf,
  Ref,
  Text,
  Uuid,
} from '../database/columns.js';

@Entity('label')
@Index(['answeredAt'])
@Index(['checkAt'])
@Index(['liveParcel'], { unique: true })
@Index(['liveReturn'], { unique: true })
@Index(['liveTracking'], { unique: true })
@Index(['parcelId'])
@Index(['state'])
@Index(['tracking'])
@Check(`asks >= 0`)
export class Label {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Parcel')
  parcelId!: string;

  @OneOf(['intended', 'asked', 'bought', 'refused', 'unknown', 'void asked', 'voided', 'doubtful'])
  state!: LabelState;

  @Text(30)
  carrier!: string;

  @Text(60)
  carrierName!: string;

  /** The number of the account that pays; empty for the house account. */
  @Code(40, { default: '' })
  account!: string;

  @Text(40)
  service!: string;

  @Text(80)
  serviceName!: string;

  @Text(10, { nullable: true })
  zone!: string | null;

  /** What weight was paid for, in words. */
  @Text(40, { nullable: true })
  billable!: string | null;

  /** The parts of its price. */
  @Json({ nullable: true })
  charges!: unknown | null;

  @Big()
  minor!: number;

  @Big({ nullable: true })
  chargedMinor!: number | null;

  /** What came back when it was voided. */
  @Big({ nullable: true })
  refundMinor!: number | null;

  @Fixed(3)
  currency!: string;

  @Json()
  request!: unknown;

  @Day()
  arrives!: string;

  @Code(40, { nullable: true })
  tracking!: string | null;

  @Text(40, { nullable: true })
  routing!: string | null;

  @Text(300, { nullable: true })
  why!: string | null;

  @Uuid({ nullable: true })
  personId!: string | null;

  @At()
  intendedAt!: Date;

  @At({ nullable: true })
  askedAt!: Date | null;

  @At({ nullable: true })
  answeredAt!: Date | null;

  @Uuid({
    asExpression: `if(state in ('refused','voided') or back,NULL,parcelId)`,
    generatedType: 'STORED',
    nullable: true,
  })
  liveParcel!: string;

  /** For the way back of the parcel to the house. */
  @Flag({ default: false })
  back!: boolean;

  @Uuid({
    asExpression: `if(back and state not in ('refused','voided'),parcelId,NULL)`,
    generatedType: 'STORED',
    nullable: true,
  })
  liveReturn!: string | null;

  @Int({ default: 0 })
  asks!: number;

  /** The label as the carrier drew it, a PDF; Auk draws it when there is none. */
  @Bytes({ nullable: true })
  picture!: Buffer | null;

  /** How often the books were looked through again for a purchase that was refused, and when it is next. */
  @Int({ default: 0 })
  checks!: number;

  @At({ nullable: true })
  checkAt!: Date | null;

  /** Bought somewhere else; its number was typed in. */
  @Flag({ default: false })
  elsewhere!: boolean;

  /** Bought in a batch: printed with it, not at the bench that packed it. */
  @Uuid({ nullable: true })
  batchId!: string | null;

  /** A number that is on one live label only. */
  @Code(80, {
    asExpression: `if(state in ('bought','void asked'),concat(carrier,' ',tracking),NULL)`,
    generatedType: 'STORED',
    nullable: true,
  })
  liveTracking!: string | null;
}
