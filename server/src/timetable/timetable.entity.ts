import { Entity, Index } from 'typeorm';
import { Fixed, Flag, Json, Ref, Text, Uuid } from '../database/columns.js';

@Entity('timetable')
@Index(['warehouseId'])
export class Timetable {
  @Uuid({ primary: true })
  id!: string;

  @Ref('Warehouse')
  warehouseId!: string;

  @Text(30)
  carrier!: string;

  @Text(60)
  carrierName!: string;

  @Text(80)
  name!: string;

  @Text(20)
  weekdays!: string;

  @Fixed(5)
  cutOff!: string;

  @Json()
  services!: unknown;

  @Flag({ default: false })
  freight!: boolean;
}
