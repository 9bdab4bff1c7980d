import { Check, Entity, Index } from 'typeorm';
import { At, Big, Code, Day, Json, Ref, Text, Uuid } from '../database/columns.js';

/** A label that a rule wants bought without a person, under the key of its purchase. While it is not freed it holds its price of the day's caps. */
@Entity('unattended')
@Index(['orderId'])
@Index(['parcelId', 'ruleId'], { unique: true })
@Index(['day'])
@Check(`minor >= 0`)
export class Unattended {
  @Uuid({ primary: true })
  id!: string;

  /** None where no parcel could be planned before anybody packed. */
  @Ref('Parcel', { nullable: true })
  parcelId!: string | null;

  /** Where there is no parcel. */
  @Ref('Order', { nullable: true })
  orderId!: string | null;

  @Code(36)
  ruleId!: string;

  /** The rule as it was called: "book 15, rule 4 “Seeds”". */
  @Text(120)
  rule!: string;

  /** The warehouse's day on which it was intended. */
  @Day()
  day!: string;

  /** In the house's currency. */
  @Big({ nullable: true })
  minor!: number | null;

  @Text(80)
  service!: string;

  /** What is bought, as it was offered; nothing where it was refused before. */
  @Json({ nullable: true })
  wish!: unknown | null;

  @Text(300, { nullable: true })
  why!: string | null;

  @At()
  at!: Date;

  /** Since when it holds nothing any more: it was refused. */
  @At({ nullable: true })
  freedAt!: Date | null;
}
