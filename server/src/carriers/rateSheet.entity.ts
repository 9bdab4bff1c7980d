import { Entity, Index } from 'typeorm';
import { At, Bytes, Day, Fixed, Json, Ref, Text, Uuid } from '../database/columns.js';

/** What an account pays from a day on: as it was read, and the file that it was read from. */
@Entity('rateSheet')
@Index(['accountId', 'fromDay'])
export class RateSheetRow {
  @Uuid({ primary: true })
  id!: string;

  @Ref('CarrierAccount')
  accountId!: string;

  @Text(80)
  name!: string;

  @Fixed(3)
  currency!: string;

  @Day()
  fromDay!: string;

  @Json()
  sheet!: unknown;

  @Bytes()
  text!: Buffer;

  @At()
  at!: Date;

  @Uuid({ nullable: true })
  personId!: string | null;
}
