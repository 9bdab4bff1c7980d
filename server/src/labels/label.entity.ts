import { Check, Entity, Index } from 'typeorm';
import { At, Big, Code, Day, Fixed, Int, Json, OneOf, Ref, Text, Uuid } from '../database/columns.js';

@Entity('label')
@Index(['answeredAt'])
@Index(['liveParcel'], { unique: true })
@Index(['parcelId'])
@Index(['state'])
@Index(['tracking'])
@Check(`asks >= 0`)
export class Label {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Parcel')
  parcelId!: string;

  @OneOf(['intended', 'asked', 'bought', 'refused', 'unknown', 'void asked', 'voided'])
  state!: 'intended' | 'asked' | 'bought' | 'refused' | 'unknown' | 'void asked' | 'voided';

  @Text(30)
  carrier!: string;

  @Text(60)
  carrierName!: string;

  @Text(40)
  service!: string;

  @Text(80)
  serviceName!: string;

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
    asExpression: `if(state in ('refused','voided'),NULL,parcelId)`,
    generatedType: 'STORED',
    nullable: true,
  })
  liveParcel!: string;

  @Int({ default: 0 })
  asks!: number;
}
