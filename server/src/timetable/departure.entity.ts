import { Entity, Index } from 'typeorm';
import { At, Code, Day, Flag, Int, Json, OneOf, Ref, Text, Uuid } from '../database/columns.js';

@Entity('departure')
@Index(['day', 'state'])
@Index(['no'], { unique: true })
@Index(['timetableId', 'day'], { unique: true })
@Index(['warehouseId'])
export class Departure {
  @Uuid({ primary: true })
  id!: string;

  @Int({ generated: 'increment' })
  no!: number;

  @Ref('Warehouse')
  warehouseId!: string;

  @Uuid({ nullable: true })
  timetableId!: string | null;

  @Text(30)
  carrier!: string;

  @Text(60)
  carrierName!: string;

  @Text(80)
  name!: string;

  @Day()
  day!: string;

  @At()
  cutOff!: Date;

  @Json()
  services!: unknown;

  @Flag({ default: false })
  freight!: boolean;

  @OneOf(['open', 'closed', 'cancelled'], { default: 'open' })
  state!: 'open' | 'closed' | 'cancelled';

  @At({ nullable: true })
  closedAt!: Date | null;

  @Uuid({ nullable: true })
  closedBy!: string | null;

  @Text(200, { default: '' })
  reason!: string;

  /** What its carrier calls the collection that was booked. */
  @Code(40, { nullable: true })
  bookedAs!: string | null;

  /** What its carrier calls the list of what was handed over. */
  @Code(40, { nullable: true })
  manifest!: string | null;
}
