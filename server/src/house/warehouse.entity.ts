import { Entity, Index } from 'typeorm';
import { Fixed, Json, Text, Uuid } from '../database/columns.js';

@Entity('warehouse')
@Index(['code'], { unique: true })
export class Warehouse {
  @Uuid({ primary: true })
  id!: string;

  @Text(8)
  code!: string;

  @Text(80)
  name!: string;

  @Text(40)
  zone!: string;

  @Fixed(3)
  currency!: string;

  @Text(16)
  postcode!: string;

  @Fixed(2)
  country!: string;

  @Json()
  sender!: unknown;

  @Json()
  layout!: unknown;
}
